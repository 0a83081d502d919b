import { createHash, randomBytes } from 'node:crypto'
import { existsSync, readdirSync, readFileSync, symlinkSync, writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { gunzipSync } from 'node:zlib'
import { afterAll, beforeAll, expect, test } from 'vitest'
import type { BenchAnswer } from '../../core/bench/bench'
import type { Find, FindCounts } from '../../core/bench/filter'
import type { PassShape } from '../../core/bench/medium'
import { openShop } from '../support/carry'
import { Client } from '../support/client'
import type { Server } from '../support/server'

/** Media at the server's routes: the register, the jobs, and what they come to. */
const ASHBY = 'SL-0012'
const HERON = 'SL-0017'
const CARD = 'medium-survey-card'
const WORN = 'medium-worn-card'

class Shop {
  constructor(
    readonly server: Server,
    public request: Client,
  ) {}

  private async as(name: 'bram' | 'ottilie') {
    this.request = await new Client(this.server.address).signIn(name)
  }
  asTechnician = () => this.as('bram')
  asOwner = () => this.as('ottilie')

  async ask<T>(method: 'GET' | 'POST' | 'PUT' | 'DELETE', path: string, data?: unknown): Promise<T> {
    const answer = await this.request.fetch(path, method, { data })
    if (!answer.ok) throw new Error(`${method} ${path}: ${await answer.text()}`)
    return (await answer.json()) as T
  }
  async refused(method: 'POST' | 'PUT', path: string, data: unknown): Promise<string> {
    const answer = await this.request.fetch(path, method, { data })
    expect(answer.ok).toBe(false)
    return ((await answer.json()) as { message: string }).message
  }

  start = (code: string, link: string, options: object) =>
    this.ask<{ pass: number; listing: number }>('POST', `/api/cases/${code}/bench/links/${link}/pass`, options)
  pass = async (code: string, id: number): Promise<PassShape> =>
    (await this.ask<{ passes: PassShape[] }>('GET', `/api/cases/${code}/bench/passes`)).passes.find(
      (one) => one.id === id,
    )!
  wish = (code: string, id: number, wish: string) => this.ask('PUT', `/api/cases/${code}/bench/passes/${id}`, { wish })
  async until(code: string, id: number, isSo: (pass: PassShape) => boolean): Promise<PassShape> {
    await expect.poll(async () => isSo(await this.pass(code, id)), { timeout: 40_000, interval: 60 }).toBe(true)
    return this.pass(code, id)
  }
  found = (code: string, listing: number, query = '') =>
    this.ask<{ finds: Find[]; counts: FindCounts }>(
      'GET',
      `/api/cases/${code}/bench/listings/${listing}?limit=500&counts=1${query}`,
    )
}

let shop: Shop
beforeAll(async () => {
  const { server, request } = await openShop({ LANTERN_JOBS: '1' })
  shop = new Shop(server, request)
})
afterAll(() => shop.server.remove())

const truth = (name: string) =>
  (
    JSON.parse(readFileSync(resolve(`stand-ins/media/images/${name}.json`), 'utf8')) as {
      files: { path: string; state: string; sha256: string }[]
    }
  ).files

test('a card is read from the queue to the shelf, byte by byte, with its evidence and its checksum', async () => {
  const { pass, listing } = await shop.start(ASHBY, CARD, { pass: 'both', takesChecksum: true })
  expect(await shop.refused('POST', `/api/cases/${ASHBY}/bench/links/${CARD}/pass`, { pass: 'quick' })).toContain(
    'in progress',
  )
  const done = await shop.until(ASHBY, pass, ({ state }) => state === 'done')
  const image = readFileSync(join(shop.server.data, 'stand-ins/media', `${CARD}.img`))
  expect(done.sha256).toBe(createHash('sha256').update(image).digest('hex'))
  expect(done.progress).toMatchObject({ unreadableBytes: 0 })

  const { finds, counts } = await shop.found(ASHBY, listing)
  expect(counts.total).toBe(finds.length)
  expect(counts.section!.reduce((sum, part) => sum + part, 0)).toBe(finds.filter(({ bytes }) => bytes > 0).length)
  const deleted = finds.filter(({ presence, whole }) => presence === 'deleted' && whole === 'intact')
  expect(deleted.length).toBeGreaterThan(10)
  for (const { evidence } of deleted) {
    expect(evidence!.checks.length).toBeGreaterThan(0)
    expect(evidence!.extents.length).toBeGreaterThan(0)
  }
  // A camera's own date goes before the one of the record.
  expect(deleted.find(({ name }) => name.endsWith('URV0019.JPG'))!.made).toMatch(/^2026-11-12T12:00/)
  // Brushed: only what begins in that stretch of the medium.
  const [first] = deleted[0]!.evidence!.extents
  const brushed = await shop.found(ASHBY, listing, `&fromByte=${first![0]}&toByte=${first![0] + 1}`)
  expect(brushed.finds.map(({ find }) => find)).toContain(deleted[0]!.find)
  expect(brushed.counts.matching).toBeLessThan(counts.matching)
  expect(brushed.counts.section).toEqual(counts.section)
  const { folders } = await shop.ask<{ folders: { name: string; count: number }[] }>(
    'GET',
    `/api/cases/${ASHBY}/bench/listings/${listing}/folders?place=${encodeURIComponent('SURVEY / DCIM')}`,
  )
  expect(folders.map(({ name }) => name)).toEqual(['101SURV', '102SURV', '103SURV'])

  // Films are played in parts, from anywhere.
  const film = finds.find(({ mime, bytes }) => mime === 'video/mp4' && bytes > 2000)!
  const address = `/api/cases/${ASHBY}/bench/listings/${listing}/finds/${film.find}/content`
  const whole = Buffer.from(await (await shop.request.get(address)).arrayBuffer())
  expect(whole).toHaveLength(film.bytes)
  const ranged = (range: string) => shop.request.fetch(address, 'GET', { headers: { range } })
  const part = await ranged('bytes=1000-1999')
  expect([part.status, part.headers.get('content-range')]).toEqual([206, `bytes 1000-1999/${film.bytes}`])
  expect(Buffer.from(await part.arrayBuffer()).equals(whole.subarray(1000, 2000))).toBe(true)
  expect(Buffer.from(await (await ranged('bytes=-10')).arrayBuffer()).equals(whole.subarray(-10))).toBe(true)
  expect((await ranged(`bytes=${film.bytes}-`)).status).toBe(416)

  const base = `/api/cases/${ASHBY}/bench`
  await shop.ask('POST', `${base}/listings/${listing}/select`, {
    finds: deleted.map(({ find }) => find),
    isSelected: true,
  })
  await shop.ask('POST', `${base}/shelf/copy`, { listing })
  // The manifest is written when the job ends, a moment after its last item.
  await expect
    .poll(async () => (await shop.ask<BenchAnswer>('GET', base)).shelf, { timeout: 20_000 })
    .toMatchObject({ verified: deleted.length, job: { state: 'done' } })
  const shelf = join(shop.server.data, 'shelf', ASHBY)
  const manifest = JSON.parse(readFileSync(join(shelf, 'manifest.json'), 'utf8')) as {
    media: object[]
    items: { path: string; sha256: string; evidence: { extents: number[][]; checks: string[] } }[]
  }
  expect(manifest.media).toEqual([
    { link: CARD, title: 'Card of the survey camera', bytes: image.length, sha256: done.sha256 },
  ])
  // The dates in the pictures were moved to today, so the bytes at the extents are the truth.
  for (const { path, sha256, evidence } of manifest.items) {
    const bytes = readFileSync(join(shelf, path))
    expect(createHash('sha256').update(bytes).digest('hex')).toBe(sha256)
    const held = Buffer.concat(evidence.extents.map(([at, length]) => image.subarray(at, at! + length!)))
    expect(bytes.equals(held)).toBe(true)
    expect(evidence.checks.length).toBeGreaterThan(0)
  }
  const history = await shop.ask<{ is: { says?: string } | null }[]>('GET', `/api/cases/${ASHBY}/history`)
  expect(history.map(({ is }) => is?.says ?? '').some((says) => says.includes(done.sha256!))).toBe(true)
})

test('a worn card: slow, paused, killed, resumed; then only the dead sectors are missing', async () => {
  const { pass, listing } = await shop.start(HERON, WORN, { pass: 'both', isWhole: true })
  await shop.until(HERON, pass, ({ progress }) => (progress?.at ?? 0) > 2_000_000)
  // The app still answers, and the next scan waits for a core.
  const other = await shop.start(ASHBY, CARD, { pass: 'quick' })
  expect(await shop.pass(ASHBY, other.pass)).toMatchObject({ state: 'queued', waitsFor: 1 })
  await shop.wish(HERON, pass, 'pause')
  const paused = await shop.until(HERON, pass, ({ state }) => state === 'paused')
  await shop.until(ASHBY, other.pass, ({ state }) => state === 'done')
  expect((await shop.pass(HERON, pass)).progress!.at).toBe(paused.progress!.at)
  // What is paused already is not paused again, in the history neither.
  await shop.wish(HERON, pass, 'pause')
  const history = await shop.ask<{ is: { says?: string } | null }[]>('GET', `/api/cases/${HERON}/history`)
  expect(history.filter(({ is }) => is?.says?.includes('paused the scan'))).toHaveLength(1)
  await shop.wish(HERON, pass, 'resume')
  const before = await shop.until(HERON, pass, ({ progress }) => progress!.at > paused.progress!.at)
  const selected = (await shop.found(HERON, listing)).finds[0]!
  await shop.ask('POST', `/api/cases/${HERON}/bench/listings/${listing}/select`, {
    finds: [selected.find],
    isSelected: true,
  })

  await shop.server.stop('SIGKILL')
  await shop.server.start()
  await shop.asTechnician()
  const after = await shop.until(HERON, pass, ({ state, progress }) => state === 'running' && progress !== null)
  expect(after.progress!.at).toBeGreaterThan(0)
  const done = await shop.until(HERON, pass, ({ state }) => state === 'done')
  expect(done.progress!.seconds).toBeGreaterThan(before.progress!.seconds)
  // The weak places came when they were asked again; the dead ones did not.
  expect(done.progress!.unreadable).toEqual([
    [3300 * 512, 3 * 512],
    [4100 * 512, 8 * 512],
  ])
  const { finds } = await shop.found(HERON, listing)
  expect(new Set(finds.map(({ keep, id }) => `${keep}/${id}`)).size).toBe(finds.length)
  expect(finds.find(({ find }) => find === selected.find)!.isSelected).toBe(true)
  const touched = finds.filter(({ evidence }) =>
    evidence!.extents.some(([at, length]) => at < 3303 * 512 && at + length > 3300 * 512),
  )
  expect(touched.length).toBeGreaterThan(0)
  for (const { whole, evidence } of touched) {
    expect(whole).not.toBe('intact')
    expect(evidence!.checks.join()).toContain('cannot be read')
  }
  // Everything outside the dead sectors is recovered, by name or by content.
  const image = gunzipSync(readFileSync(resolve('stand-ins/media/images/heron-card.img.gz')))
  const whole = new Set(
    finds
      .filter((find) => find.whole === 'intact' && find.evidence!.kept.as === 'pieces')
      .map(({ evidence }) => {
        const held = Buffer.concat(
          evidence!.extents.map(([at, length]) => (at < 0 ? Buffer.alloc(length) : image.subarray(at, at + length))),
        )
        return createHash('sha256').update(held).digest('hex')
      }),
  )
  expect(truth('heron-card').filter(({ sha256 }) => whole.has(sha256)).length).toBeGreaterThan(7)
})

test('a scan is ended early and keeps its results, is resumed, and is discarded without a trace', async () => {
  const { pass, listing } = await shop.start(HERON, WORN, { pass: 'both', isWhole: true })
  await shop.until(HERON, pass, ({ progress }) => (progress?.at ?? 0) > 1_000_000)
  await shop.wish(HERON, pass, 'finish')
  const ended = await shop.until(HERON, pass, ({ state }) => state === 'enough')
  const kept = (await shop.found(HERON, listing)).counts.total
  expect(kept).toBe(ended.progress!.found)
  expect(kept).toBeGreaterThan(20)
  await shop.wish(HERON, pass, 'resume')
  await shop.until(HERON, pass, ({ state, progress }) => state === 'running' && progress!.at > ended.progress!.at)
  await shop.wish(HERON, pass, 'discard')
  const bench = await shop.ask<BenchAnswer>('GET', `/api/cases/${HERON}/bench`)
  expect(bench.passes.filter((one) => one.id === pass)).toEqual([])
  expect(bench.listings.filter((one) => one.id === listing)).toEqual([])
})

test('a pass stops by itself once as many are found whole as are wanted', async () => {
  const { pass } = await shop.start(HERON, WORN, { pass: 'both', stopsWhenFound: true, types: ['photos', 'videos'] })
  const ended = await shop.until(HERON, pass, ({ state }) => state === 'enough' || state === 'done')
  expect(ended).toMatchObject({ state: 'enough', says: 'As many as wanted were found.' })
  expect(ended.progress!.wanted).toBeGreaterThanOrEqual(11)
})

test('images are placed, named by the owner, or uploaded in parts that resume after a break', async () => {
  const image = gunzipSync(readFileSync(resolve('stand-ins/media/images/floppy.img.gz')))
  const register = () =>
    shop.ask<{ folder: string; media: { id: string; title: string; bytes: number }[] }>('GET', '/api/bench/media')
  const { folder } = await register()
  writeFileSync(join(folder, 'placed.img'), image)
  writeFileSync(join(shop.server.data, 'elsewhere.img'), image)
  symlinkSync(join(shop.server.data, 'elsewhere.img'), join(folder, 'leads-out.img'))
  expect((await register()).media.filter(({ title }) => /img$/.test(title)).map(({ title }) => title)).toEqual([
    'placed.img',
  ])

  const uploads = '/api/bench/media/uploads'
  const begun = await shop.ask<{ id: string; have: number }>('POST', uploads, {
    name: '../../of a card.img',
    bytes: image.length,
  })
  const put = (from: number, part: Buffer) =>
    shop.request.put(`${uploads}/${begun.id}?from=${from}`, {
      data: part,
      headers: { 'content-type': 'application/octet-stream' },
    })
  const half = Math.floor(image.length / 2)
  expect((await put(0, image.subarray(0, half))).ok).toBe(true)
  expect((await put(0, image)).status).toBe(409)
  expect((await put(half, Buffer.concat([image.subarray(half), randomBytes(10)]))).status).toBe(400)
  const again = await shop.ask<{ id: string; have: number }>('POST', uploads, {
    name: '../../of a card.img',
    bytes: image.length,
  })
  expect(again).toMatchObject({ id: begun.id, have: half })
  expect(await (await put(half, image.subarray(half))).json()).toMatchObject({ isWhole: true })
  const name = readdirSync(folder).find((one) => one.includes('of a card'))!
  expect(readFileSync(join(folder, name)).equals(image)).toBe(true)
  expect(await shop.refused('POST', uploads, { name: 'huge.img', bytes: 2 ** 45 })).toContain('room')
  // Another of the same name takes another name, and not the place of the first.
  const small = await shop.ask<{ id: string }>('POST', uploads, { name: 'placed.img', bytes: 5, changed: 7 })
  expect((await shop.request.put(`${uploads}/${small.id}?from=0`, { data: Buffer.from('12345') })).ok).toBe(true)
  expect(readFileSync(join(folder, 'placed (2).img'), 'utf8')).toBe('12345')
  expect(readFileSync(join(folder, 'placed.img')).equals(image)).toBe(true)

  expect((await shop.request.get('/api/bench/media/paths')).status).toBe(403)
  await shop.asOwner()
  const name_ = (path: string) => shop.refused('PUT', '/api/bench/media/paths', { paths: [path] })
  expect(await name_('card.img')).toContain('absolute path')
  expect(await name_('/nowhere/card.img')).toContain('is not there')
  expect(await name_('/tmp')).toContain('neither an image')
  expect(await name_(join(shop.server.data, 'lantern.sqlite'))).toContain('part of the shop’s own data')
  const outside = `${shop.server.data}-card.img`
  writeFileSync(outside, image)
  await shop.ask('PUT', '/api/bench/media/paths', { paths: [outside] })
  await shop.asTechnician()
  const media = (await register()).media
  const named = media.find(({ title }) => title.endsWith('-card.img'))!
  expect(named.bytes).toBe(image.length)

  // One that is not what it was when the pass began is another medium.
  await shop.ask('PUT', `/api/cases/${HERON}/bench/links`, { part: 'x7', link: named.id })
  const { pass, listing } = await shop.start(HERON, named.id, { pass: 'quick' })
  expect((await shop.until(HERON, pass, ({ state }) => state === 'done')).progress!.found).toBeGreaterThan(1)
  const [find] = (await shop.found(HERON, listing)).finds
  const opened = `/api/cases/${HERON}/bench/listings/${listing}/finds/${find!.find}`
  expect((await shop.request.get(opened)).ok).toBe(true)
  writeFileSync(outside, image.subarray(0, 100_000))
  const refused = await shop.request.get(opened)
  expect(((await refused.json()) as { message: string }).message).toContain('has changed since this item was found')
  const short = await shop.start(HERON, named.id, { pass: 'both' })
  await shop.until(HERON, short.pass, ({ state }) => state === 'done')
  expect(existsSync(join(shop.server.data, 'media', '.uploads'))).toBe(true)
})
