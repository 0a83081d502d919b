import { execFileSync } from 'node:child_process'
import { appendFileSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { afterAll, beforeAll, expect, test } from 'vitest'
import { fromBuffer, type Entry, type ZipFile } from 'yauzl'
import { runLantern } from '../../cli/program'
import { openShop, type Technician } from '../support/carry'
import { Client } from '../support/client'

let tech: Technician
const folder = mkdtempSync(join(tmpdir(), 'lantern-bag-'))
beforeAll(async () => void (tech = await openShop()))
afterAll(async () => {
  rmSync(folder, { recursive: true })
  await tech.server.remove()
})

/** Unpacks with a package that did not write the archive; returns the names. */
async function unpack(bytes: Buffer, into: string): Promise<string[]> {
  const zip = await new Promise<ZipFile>((done, fail) =>
    fromBuffer(bytes, { lazyEntries: true, autoClose: false }, (error, file) => (error ? fail(error) : done(file))),
  )
  const entries = await new Promise<Entry[]>((done, fail) => {
    const all: Entry[] = []
    zip.on('entry', (entry: Entry) => (all.push(entry), zip.readEntry()))
    zip.on('end', () => done(all))
    zip.on('error', fail)
    zip.readEntry()
  })
  for (const entry of entries) {
    const path = join(into, entry.fileName)
    mkdirSync(dirname(path), { recursive: true })
    const chunks: Buffer[] = []
    await new Promise<void>((done, fail) =>
      zip.openReadStream(entry, (error, stream) => {
        if (error) return fail(error)
        stream.on('data', (chunk: Buffer) => chunks.push(chunk))
        stream.on('end', () => done())
        stream.on('error', fail)
      }),
    )
    writeFileSync(path, Buffer.concat(chunks))
  }
  return entries.map(({ fileName }) => fileName)
}

test('the shelf is taken out as a bag that ordinary tools find valid; a file that changed since ends it', async () => {
  const code = 'SL-0013'
  const bag = `/api/cases/${code}/bench/shelf/bag`
  expect((await tech.refused('GET', bag)).message).toContain('Nothing is on the shelf')
  const listing = await tech.list(code, 'harrowby-book', 'versions.last-night')
  const files = await tech.toShelf(code, listing, {})
  expect(files.length).toBeGreaterThan(0)

  const answer = await tech.request.get(bag)
  expect(answer.status).toBe(200)
  const bytes = Buffer.from(await answer.arrayBuffer())
  expect(bytes.length).toBe(Number(answer.headers.get('content-length')))
  const names = await unpack(bytes, folder)
  expect(names.every((name) => name.startsWith(`${code}/`))).toBe(true)
  const root = join(folder, code)
  for (const manifest of ['manifest-sha256.txt', 'tagmanifest-sha256.txt'])
    expect(execFileSync('sha256sum', ['-c', manifest], { cwd: root, encoding: 'utf8' })).not.toContain('FAILED')
  expect(readFileSync(join(root, 'bagit.txt'), 'utf8')).toContain('BagIt-Version: 1.0')
  const info = readFileSync(join(root, 'bag-info.txt'), 'utf8')
  const [sum, count] = /Payload-Oxum: (\d+)\.(\d+)/.exec(info)!.slice(1).map(Number)
  const payload = readdirSync(join(root, 'data'), { recursive: true, withFileTypes: true }).filter((one) =>
    one.isFile(),
  )
  expect([count, payload.length]).toEqual([files.length, files.length])
  expect(sum).toBe(payload.reduce((so, one) => so + readFileSync(join(one.parentPath, one.name)).length, 0))
  // The head in the bag is one that the history contains.
  const head = /head of the history: (\S+)/.exec(info)![1]!
  let [out, err] = ['', '']
  const words = ['verify', '--data', tech.server.data, '--head', head]
  expect(await runLantern(words, { out: (text) => (out += text), err: (text) => (err += text) }), err).toBe(0)
  expect(out).toMatch(/^\d+ entries fit/)
  const history = await (await tech.request.get(`/api/cases/${code}/history`)).text()
  expect(history).toContain(`took out the shelf as a bag: ${files.length} files`)

  const manifest = readFileSync(join(root, 'manifest-sha256.txt'), 'utf8')
  const first = /data\/(.+)/.exec(manifest)![1]!
  appendFileSync(join(tech.server.data, 'shelf', code, first), 'x')
  await expect(tech.request.get(bag).then((one) => one.arrayBuffer())).rejects.toThrow()
  const counter = await new Client(tech.server.address).signIn('jory')
  expect((await counter.get(bag)).status).toBe(403)
})
