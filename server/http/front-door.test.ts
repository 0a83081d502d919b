import { connect, type AddressInfo, type Socket } from 'node:net'
import { createServer as createProbe } from 'node:net'
import { request } from 'node:http'
import { request as secureRequest } from 'node:https'
import { networkInterfaces } from 'node:os'
import { afterEach, beforeEach, describe, expect, it } from 'vitest'
import { ErrorShape } from '../../core/errors'
import { makeAuthority, makeServerCertificate } from './certificate'
import { Doors } from './doors'
import { frontDoor } from './front-door'
import { MAX_BODY_BYTES, readLimited } from './limited-body'
import type { Failure } from '../failure'

interface Answer {
  readonly status: number
  readonly headers: Record<string, unknown>
  readonly text: string
}

const refused: string[] = []
let doors: Doors
let port = 0

async function open(host: string, isOpen: boolean, strictSeconds = 0): Promise<string> {
  const names = ['localhost', '127.0.0.1', host]
  const authority = isOpen ? await makeAuthority(names, Date.now()) : null
  const certificate = authority && (await makeServerCertificate(authority, names, Date.now()))
  const inside = frontDoor(
    (asked, answer) =>
      void readLimited(asked, MAX_BODY_BYTES).then(
        (body) => answer.end(`inside, with ${body.length}`),
        (error: Failure) => answer.writeHead(error.status).end(JSON.stringify(error.body)),
      ),
    { names: new Set(['bench.local']), strictSeconds, onRefused: (code) => void refused.push(code) },
  )
  doors = new Doors(inside, certificate)
  port = await freePort()
  await doors.open(host, port)
  return authority?.certificate ?? ''
}

const freePort = () =>
  new Promise<number>((done) => {
    const probe = createProbe().listen(0, '127.0.0.1', () => {
      const found = (probe.address() as AddressInfo).port
      probe.close(() => done(found))
    })
  })

function ask(
  path: string,
  {
    host = '127.0.0.1',
    ca,
    headers = {},
    method = 'GET',
    body,
  }: {
    host?: string
    ca?: string
    headers?: Record<string, string>
    method?: string
    body?: Buffer
  } = {},
): Promise<Answer> {
  return new Promise((done, failed) => {
    const options = { host, port, path, method, headers, ca, agent: false }
    const asked = (ca === undefined ? request : secureRequest)(options, (answer) => {
      let text = ''
      answer.on('data', (part) => (text += part))
      answer.on('end', () => done({ status: answer.statusCode!, headers: answer.headers, text }))
    })
    asked.on('error', failed)
    asked.end(body)
  })
}
const codeOf = ({ text }: Answer) => ErrorShape.parse(JSON.parse(text)).code

/** An address of this machine that is not loopback; none on a machine without a network. */
const outside = Object.values(networkInterfaces())
  .flatMap((all) => all ?? [])
  .find(({ family, internal }) => family === 'IPv4' && !internal)?.address

beforeEach(() => void refused.splice(0))
afterEach(() => doors.close(200))

describe('the front door', () => {
  it('lets in whoever asks by a name of this machine, and nobody by another', async () => {
    await open('127.0.0.1', false)
    expect((await ask('/')).text).toBe('inside, with 0')
    expect((await ask('/', { headers: { host: 'bench.local:1' } })).status).toBe(200)
    const foreign = await ask('/api/first-start', { method: 'POST', headers: { host: 'elsewhere.example' } })
    expect([foreign.status, codeOf(foreign), refused]).toEqual([421, 'foreign-host', ['foreign-host']])
  })

  it('answers addresses that cannot be decoded, and what is no HTTP, in the one shape of errors', async () => {
    await open('127.0.0.1', false)
    expect(codeOf(await ask('/%E0%A4%A'))).toBe('not-found')
    expect(codeOf(await ask('/api/cases/%'))).toBe('not-found')
    const said = await raw('half a request\r\n\r\n')
    expect(said).toMatch(/^HTTP\/1.1 400/)
    expect(ErrorShape.parse(JSON.parse(said.split('\r\n\r\n')[1]!)).code).toBe('invalid')
  })

  it('takes no body that says it is too large, nor one that is without saying so', async () => {
    await open('127.0.0.1', false)
    const large = Buffer.alloc(MAX_BODY_BYTES + 1)
    const said = await ask('/api/cases', { method: 'POST', headers: { 'content-length': String(large.length) } }).catch(
      () => null,
    )
    if (said) expect(codeOf(said)).toBe('too-large')
    expect(refused).toEqual(['too-large'])
    const chunked = await ask('/api/cases', {
      method: 'POST',
      headers: { 'transfer-encoding': 'chunked' },
      body: large,
    })
    expect(codeOf(chunked)).toBe('too-large')
    const fitting = await ask('/api/cases', {
      method: 'POST',
      headers: { 'transfer-encoding': 'chunked' },
      body: large.subarray(1),
    })
    expect(fitting.text).toBe(`inside, with ${MAX_BODY_BYTES}`)
  })

  it('answers this machine with and without TLS on one port, and swaps its certificate while it runs', async () => {
    const ca = await open('127.0.0.1', true)
    expect((await ask('/')).text).toBe('inside, with 0')
    expect((await ask('/', { ca })).text).toBe('inside, with 0')
    expect((await ask('/', { ca })).headers['strict-transport-security']).toBeUndefined()
    const other = await makeAuthority(['127.0.0.1'], Date.now())
    doors.renew(await makeServerCertificate(other, ['127.0.0.1'], Date.now()))
    expect((await ask('/', { ca: other.certificate })).text).toBe('inside, with 0')
    await expect(ask('/', { ca })).rejects.toThrow(/certificate|signature/)
  })

  it('survives handshakes that are none, or are left in the middle', async () => {
    const ca = await open('127.0.0.1', true)
    for (const bytes of ['\x16', '\x16\x03\x01\x00\x05hello', `\x16\x03\x01\x40\x00${'x'.repeat(5000)}`]) {
      const socket = connect(port, '127.0.0.1', () => socket.end(Buffer.from(bytes, 'latin1')))
      await new Promise((done) => socket.on('error', done).on('close', done).resume())
    }
    expect((await ask('/', { ca })).text).toBe('inside, with 0')
  })

  it('says that TLS is to stay only with a certificate of the settings, and never without TLS', async () => {
    const ca = await open('127.0.0.1', true, 1000)
    expect((await ask('/', { ca })).headers['strict-transport-security']).toBe('max-age=1000')
    expect((await ask('/')).headers['strict-transport-security']).toBeUndefined()
  })

  it.runIf(outside)('sends pages asked for from elsewhere to TLS, and takes nothing else without it', async () => {
    const ca = await open(outside!, true)
    const page = await ask('/cases/SL-0001?x=1', { host: outside! })
    expect([page.status, page.headers.location]).toEqual([308, `https://${outside}:${port}/cases/SL-0001?x=1`])
    expect(codeOf(await ask('/api/session', { host: outside!, method: 'POST' }))).toBe('refused')
    expect((await ask('/', { host: outside!, ca })).text).toBe('inside, with 0')
  })

  it('closes though somebody keeps a connection open', async () => {
    await open('127.0.0.1', false)
    const socket = await new Promise<Socket>((done) => {
      const made = connect(port, '127.0.0.1', () => done(made))
    })
    const ended = new Promise((done) => socket.once('close', done))
    await doors.close(50)
    await ended
    expect(socket.destroyed).toBe(true)
  })
})

const raw = (text: string) =>
  new Promise<string>((done) => {
    let said = ''
    const socket = connect(port, '127.0.0.1', () => socket.write(text))
    socket.on('data', (data) => (said += data))
    socket.on('close', () => done(said))
  })
