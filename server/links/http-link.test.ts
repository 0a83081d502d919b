import { readFileSync } from 'node:fs'
import { createServer, type Server } from 'node:http'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { LinkFailure } from '../../core/bench/fault'
import { readWhole } from '../../core/bench/link'
import type { ActionParameters } from '../../core/bench/action'
import type { Exchange } from '../stand-ins/exchanges'
import { httpLink, linksOf } from './http-link'

const recorded = JSON.parse(
  readFileSync(join(import.meta.dirname, '../../stand-ins/exchanges/stand-ins.json'), 'utf8'),
) as Exchange[]
const NONE: ActionParameters = { from: '', password: '', items: [], types: [] }
const TOKEN = 'the word'

/** A helper that knows only what was recorded, and a few ways to be no helper at all. */
let helper: Server
let address: string
beforeAll(async () => {
  helper = createServer(async (request, response) => {
    const chunks: Buffer[] = []
    for await (const chunk of request) chunks.push(chunk as Buffer)
    const body = chunks.length > 0 ? JSON.parse(Buffer.concat(chunks).toString()) : undefined
    const answer = (status: number, content: string | Buffer) =>
      response.writeHead(status, { 'content-length': Buffer.byteLength(content) }).end(content)
    if (request.headers.authorization !== `Bearer ${TOKEN}` || request.headers['lantern-protocol'] !== '1')
      return answer(403, '{}')
    if (request.url === '/links/liar') return answer(200, '{"id":"liar","state":"glad"}')
    if (request.url === '/links/broken') return answer(500, '<html>')
    if (request.url?.endsWith('/items/cut')) {
      response.writeHead(200, { 'content-length': 100 })
      response.write('only this')
      return setTimeout(() => response.destroy(), 20)
    }
    const range = /^bytes=(\d+)-$/.exec(request.headers.range ?? '')?.[1]
    const same = recorded.find(
      (one) =>
        one.request.method === request.method &&
        one.request.path === request.url &&
        String(one.request.range ?? '') === (range ?? '') &&
        JSON.stringify(one.request.body ?? null) === JSON.stringify(withoutDefaults(body) ?? null),
    )
    if (!same) return answer(404, '{"fault":"not-found","says":"not recorded"}')
    const { response: said } = same
    answer(said.status, said.base64 === undefined ? JSON.stringify(said.json) : Buffer.from(said.base64, 'base64'))
  })
  await new Promise<void>((done) => helper.listen(0, '127.0.0.1', done))
  const at = helper.address()
  address = `http://127.0.0.1:${typeof at === 'object' && at ? at.port : 0}`
})
afterAll(() => new Promise((done) => helper.close(done)))

/** Parameters that say nothing are as good as none. */
function withoutDefaults(body: { parameters?: ActionParameters } | undefined) {
  if (!body?.parameters) return body
  const said = Object.entries(body.parameters).filter(([, value]) => value.length > 0)
  return { ...body, parameters: Object.fromEntries(said) }
}
const said = (method: string, path: string, nth = 0) =>
  recorded.filter(({ request }) => request.method === method && request.path === path)[nth]!.response
const link = (id: string, token = TOKEN) => httpLink({ address, token }, id)
const faultOf = async (work: Promise<unknown>) => {
  const error = await work.then(
    () => null,
    (thrown) => thrown,
  )
  expect(error).toBeInstanceOf(LinkFailure)
  return (error as LinkFailure).fault
}

describe('the driver for helpers', () => {
  it('lists what is connected, with the state of each', async () => {
    expect(await linksOf({ address, token: TOKEN })).toHaveLength(3)
    expect(await link('ostrel-mini').state()).toEqual(said('GET', '/links/ostrel-mini').json)
  })

  it('passes answers on, and reports what was wrong with them', async () => {
    const phone = link('ostrel-mini')
    expect(await faultOf(phone.answer({ answer: 'passcode', value: '0000' }))).toMatchObject({
      fault: 'wrong-passcode',
    })
    expect((await phone.answer({ answer: 'passcode', value: '3317' })).state).toBe('debugging-off')
    expect(await faultOf(link('lindqvist-old-account').answer({ answer: 'password', value: 'wrong' }))).toMatchObject({
      fault: 'wrong-password',
      triesLeft: 4,
    })
  })

  it('reads lists and bytes, and resumes where it broke off', async () => {
    const account = link('lindqvist-old-account')
    const page = await account.list('contacts', 0)
    expect(page.items).toHaveLength(9)
    const whole = Buffer.from(await readWhole(await account.read('contacts', 'o0'), 10_000))
    const rest = Buffer.from(await readWhole(await account.read('contacts', 'o0', 20), 10_000))
    expect(JSON.parse(whole.toString())).toEqual(page.items[0]!.record)
    expect(rest.equals(whole.subarray(20))).toBe(true)
  })

  it('asks what a step would do, and gets the reason why it does not start', async () => {
    const offer = await link('lindqvist-old-account').offer('turn-back', {
      ...NONE,
      from: 'lindqvist-old-account/contacts.20',
    })
    expect(offer.effects).toMatchObject({ erases: false, gone: [], back: [] })
    expect(await faultOf(link('ostrel-mini').act('read-apps', NONE))).toMatchObject({ fault: 'not-met' })
  })

  it('distinguishes an interrupted transfer from a complete one', async () => {
    expect(
      await faultOf(
        link('ostrel-mini')
          .read('sim', 'cut')
          .then((parts) => readWhole(parts, 1000)),
      ),
    ).toMatchObject({ fault: 'interrupted' })
  })

  it('believes nothing that is not in the protocol', async () => {
    expect(await faultOf(link('liar').state())).toMatchObject({ fault: 'unknown-helper' })
    expect(await faultOf(link('broken').state())).toMatchObject({ fault: 'unknown-helper' })
    expect(await faultOf(link('ostrel-mini', 'another word').state())).toMatchObject({ fault: 'unknown-helper' })
    expect(await faultOf(link('nobody').state())).toMatchObject({ fault: 'not-found' })
    expect(await faultOf(httpLink({ address: 'http://127.0.0.1:9', token: TOKEN }, 'x').state())).toMatchObject({
      fault: 'lost',
    })
  })
})
