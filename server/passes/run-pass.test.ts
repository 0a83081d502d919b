import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { eq } from 'drizzle-orm'
import { afterAll, afterEach, beforeEach, describe, expect, it } from 'vitest'
import { createHash } from 'node:crypto'
import { Case, emptyCase } from '../../core/cases/shape/case'
import type { PassOptions, PassProgress } from '../../core/bench/medium'
import { imageBytes, scanned, type ImageName } from '../../core/testing/media-images'
import type { Faults } from '../../stand-ins/media/faults'
import { openDatabase, type Database } from '../db/open'
import { cases, findBodies, finds, listings, passes, passNotes } from '../db/tables'
import { runPass, type Wish } from './run-pass'

const folder = mkdtempSync(join(tmpdir(), 'lantern-passes-'))
afterAll(() => rmSync(folder, { recursive: true }))

const images = new Map<ImageName, string>()
function pathOf(name: ImageName): string {
  const path = images.get(name) ?? join(folder, `${name}.img`)
  if (!images.has(name)) writeFileSync(path, imageBytes(name))
  images.set(name, path)
  return path
}

let database: Database
let shop = 0
beforeEach(() => {
  database = openDatabase(join(folder, `shop-${++shop}`), resolve('server/db/migrations'))
})
afterEach(() => database.$client.close())

interface Asked {
  readonly name: ImageName
  readonly options?: Partial<PassOptions>
  readonly wanted?: object
  readonly faults?: Faults | null
}

/** A pass that waits to be carried out, for a case that wants its pictures back. */
function queue({ name, options = {}, wanted = { type: 'photos' } }: Asked): { pass: number; listing: number } {
  const ofCase = Case.parse({ ...emptyCase(), wanted: [{ id: 'w1', ...wanted }] })
  const { id: caseId } = database
    .insert(cases)
    .values({ code: 'SL-0001', version: 1, body: JSON.stringify(ofCase), state: 'open', updatedAt: '' })
    .returning()
    .get()
  const { id: listing } = database
    .insert(listings)
    .values({ caseId, link: 'm', keep: 'medium', title: name, at: '', by: '', state: 'listing' })
    .returning()
    .get()
  const { id: pass } = database
    .insert(passes)
    .values({
      caseId,
      listingId: listing,
      link: 'm',
      isOwn: true,
      options: JSON.stringify({ pass: 'both', ...options }),
      state: 'running',
      claim: 'mine',
      stamp: '',
      bytes: imageBytes(name).length,
      by: '',
      queued: '',
    })
    .returning()
    .get()
  return { pass, listing }
}

/** Carries a pass out with a clock on which every look takes a second, so that everything is written down at once. */
function carryOut(pass: number, { name, faults = null }: Asked, wish: (asked: number) => Wish = () => 'continue') {
  let [asked, seconds] = [0, 0]
  const told: PassProgress[] = []
  const state = runPass(
    database,
    { passId: pass, claim: 'mine', medium: { path: pathOf(name), packed: null, faults, opened: [] } },
    { tell: (progress) => told.push(progress), wish: () => wish(asked++), clock: () => ++seconds * 1000 },
  )
  return state.then((is) => ({ is, told }))
}

const rowsOf = (listing: number) =>
  database
    .select({ find: finds, body: findBodies.body })
    .from(finds)
    .innerJoin(findBodies, eq(findBodies.findId, finds.id))
    .where(eq(finds.listingId, listing))
    .all()
const comparable = (listing: number) =>
  rowsOf(listing)
    .map(({ find: { id: _, listingId: __, ...find }, body }) => ({ ...find, body: JSON.parse(body) as object }))
    .sort((a, b) => (a.item < b.item ? -1 : 1))
const passOf = (pass: number) => database.select().from(passes).where(eq(passes.id, pass)).get()!

describe('a pass as a job', () => {
  it.each<ImageName>(['camera-card', 'stick', 'laptop'])('lists of %s what the scan finds, once each', async (name) => {
    const { pass, listing } = queue({ name })
    expect((await carryOut(pass, { name })).is).toBe('done')
    const { items } = scanned(imageBytes(name))
    expect(
      rowsOf(listing)
        .map(({ find }) => `${find.item.split('/')[1]} ${find.whole} ${find.bytes}`)
        .sort(),
    ).toEqual(items.map(({ key, content, bytes }) => `${key} ${content} ${bytes}`).sort())
    expect(passOf(pass)).toMatchObject({ state: 'done' })
    expect(database.select().from(passNotes).all()).toEqual([])
    expect(database.select().from(listings).where(eq(listings.id, listing)).get()!.state).toBe('whole')
  })

  it('comes to the same however often it is ended in the middle, and keeps numbers and marks', async () => {
    for (const name of ['stick', 'camera-card'] as const) {
      const whole = queue({ name, options: { takesChecksum: true } })
      await carryOut(whole.pass, { name })
      const expected = comparable(whole.listing)
      database.delete(listings).run()
      database.delete(cases).run()

      const { pass, listing } = queue({ name, options: { takesChecksum: true } })
      let [sittings, selected] = [0, 0]
      for (let state = 'running'; state !== 'done'; sittings++) {
        // Each sitting comes a little further than the one before.
        state = (await carryOut(pass, { name }, (asked) => (asked > 2 + sittings * 2 ? 'end' : 'continue'))).is
        if (selected === 0 && rowsOf(listing).length > 0) {
          selected = rowsOf(listing)[0]!.find.id
          database.update(finds).set({ isSelected: true }).where(eq(finds.id, selected)).run()
        }
        expect(sittings).toBeLessThan(200)
      }
      expect(sittings).toBeGreaterThan(3)
      expect(rowsOf(listing).find(({ find }) => find.id === selected)?.find.isSelected).toBe(true)
      database.update(finds).set({ isSelected: false }).run()
      expect(comparable(listing)).toEqual(expected)
      expect(passOf(pass).sha256).toBe(createHash('sha256').update(imageBytes(name)).digest('hex'))
      database.delete(listings).run()
      database.delete(cases).run()
    }
  })

  it('that is paused or ended early keeps what it has, and says so', async () => {
    const { pass, listing } = queue({ name: 'camera-card' })
    const late = (asked: number): Wish => (asked > 8 ? 'pause' : 'continue')
    expect((await carryOut(pass, { name: 'camera-card' }, late)).is).toBe('paused')
    const paused = rowsOf(listing).length
    expect(paused).toBeGreaterThan(20)
    expect(passOf(pass)).toMatchObject({ state: 'paused' })
    database.update(passes).set({ state: 'running' }).run()
    expect((await carryOut(pass, { name: 'camera-card' }, () => 'finish')).is).toBe('enough')
    expect(passOf(pass)).toMatchObject({ state: 'enough', says: 'Ended by the technician.' })
    expect(rowsOf(listing).length).toBeGreaterThanOrEqual(paused)
  })

  it('writes nothing more once it is another’s', async () => {
    const { pass, listing } = queue({ name: 'camera-card' })
    const rob = (asked: number): Wish => {
      if (asked === 3) database.update(passes).set({ claim: 'another' }).run()
      return 'continue'
    }
    expect((await carryOut(pass, { name: 'camera-card' }, rob)).is).toBe('running')
    const there = rowsOf(listing).length
    expect(passOf(pass)).toMatchObject({ state: 'running', claim: 'another' })
    expect(rowsOf(listing).length).toBe(there)
  })

  it('counts lost items that can be recovered as wanted, by kind and by date', async () => {
    const { pass, listing } = queue({
      name: 'camera-card',
      wanted: { type: 'photos', count: 4, made: { from: '2026-11-07T00:00:00Z', to: '2026-11-08T23:00:00Z' } },
      options: { stopsWhenFound: true },
    })
    expect((await carryOut(pass, { name: 'camera-card' })).is).toBe('enough')
    expect(passOf(pass).says).toBe('As many as wanted were found.')
    const wanted = rowsOf(listing).filter(({ find }) => find.wanted === 'w1')
    expect(wanted.length).toBeGreaterThanOrEqual(4)
    for (const { find } of wanted) {
      expect(find).toMatchObject({ type: 'photos', presence: 'deleted' })
      expect(find.whole).not.toBe('overwritten')
      expect(find.made! >= '2026-11-06' && find.made! < '2026-11-10').toBe(true)
    }
  })

  it('reports progress, finds by kind, and unreadable sectors', async () => {
    const faults: Faults = { dead: [[100 * 512, 4 * 512]], weak: [], weakTries: 1, bytesPerSecond: null, giveUpMs: 0 }
    const asked: Asked = { name: 'recorder', options: { isWhole: true }, faults }
    const { pass, listing } = queue(asked)
    const { told } = await carryOut(pass, asked)
    expect(told.map(({ phase }) => phase)).toContain('records')
    const content = told.filter(({ phase }) => phase === 'content')
    expect(content.length).toBeGreaterThan(10)
    for (const [before, after] of content.slice(1).map((one, at) => [content[at]!, one] as const))
      expect(after.done).toBeGreaterThanOrEqual(before.done)
    expect(content.at(-1)!.of).toBe(imageBytes('recorder').length)
    const last = passOf(pass)
    const progress = JSON.parse(last.progress!) as PassProgress
    expect(progress.unreadable).toEqual([[100 * 512, 4 * 512]])
    const sum = Object.values(progress.byType).reduce((all, count) => all + count, 0)
    expect(sum).toBe(rowsOf(listing).length)
    expect(progress.found).toBe(sum)
  })

  it('of chosen kinds carves only those, and still reports every record', async () => {
    const { pass, listing } = queue({ name: 'ext2', options: { types: ['audio'] } })
    await carryOut(pass, { name: 'ext2' })
    const byContent = rowsOf(listing).filter(({ body }) => body.includes('"record":"none"'))
    expect(byContent.length).toBeGreaterThan(2)
    const types = new Set(byContent.map(({ find }) => find.type))
    // A recording may be stored in a movie's format, so those are found too.
    expect([...types].sort()).toEqual(['audio', 'videos'])
    expect(rowsOf(listing).some(({ find }) => find.type === 'documents')).toBe(true)
  })

  it('stops with what the system says where the medium is not there', async () => {
    const { pass } = queue({ name: 'stick' })
    const job = {
      passId: pass,
      claim: 'mine',
      medium: { path: join(folder, 'gone.img'), packed: null, faults: null, opened: [] },
    }
    const port = { tell: () => {}, wish: (): Wish => 'continue', clock: () => 0 }
    await expect(runPass(database, job, port)).rejects.toMatchObject({ code: 'ENOENT' })
  })
})
