import { mkdtempSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import fc from 'fast-check'
import { afterAll, describe, expect, it } from 'vitest'
import { Case, emptyCase } from '../../core/cases/shape/case'
import type { FindFilter } from '../../core/bench/filter'
import { LinkItem } from '../../core/bench/item'
import { SECTION_PARTS, type Evidence } from '../../core/bench/medium'
import { openDatabase } from '../db/open'
import { cases, listings, passes, shelfItems } from '../db/tables'
import { readPlaybook, writePlaybook } from '../settings'
import { countsOf, foldersOf } from './find-counts'
import { rowOf } from './find-row'
import { findsOf, findsOfDays, select } from './finds'
import { listingsOf } from './listings-of-case'
import { insertFinds, updateFind, type NewFind } from './store-finds'

const folder = mkdtempSync(join(tmpdir(), 'lantern-counts-'))
const database = openDatabase(folder, resolve('server/db/migrations'))
afterAll(() => {
  database.$client.close()
  rmSync(folder, { recursive: true })
})

const BYTES = 1_000_000_000
const ofCase = Case.parse({ ...emptyCase(), wanted: [{ id: 'w1', type: 'photos', count: 40 }] })
const { id: caseId } = database
  .insert(cases)
  .values({ code: 'SL-0001', version: 1, body: JSON.stringify(ofCase), state: 'open', updatedAt: '' })
  .returning()
  .get()

function newListing(isMedium: boolean) {
  const listing = database
    .insert(listings)
    .values({ caseId, link: 'm', keep: 'medium', title: '', at: '', by: '', state: 'whole' })
    .returning()
    .get()
  const pass = { caseId, listingId: listing.id, link: 'm', isOwn: true, options: '{}', stamp: '', bytes: BYTES, by: '' }
  if (isMedium)
    database
      .insert(passes)
      .values({ ...pass, state: 'done', queued: '' })
      .run()
  return listing
}

interface Made {
  name: string
  type: 'photos' | 'videos' | 'documents'
  day: number | null
  presence: 'present' | 'deleted'
  whole: 'intact' | 'unverified' | 'partial' | 'overwritten'
  place: readonly string[]
  lies: number
  bytes: number
}
const made = fc.record<Made>({
  name: fc.constantFrom('weir.jpg', 'weir 2.jpg', 'plan.pdf', 'mill.mp4', '100 %_done.txt'),
  type: fc.constantFrom('photos', 'videos', 'documents'),
  day: fc.option(fc.integer({ min: 1, max: 28 }), { nil: null }),
  presence: fc.constantFrom('present', 'deleted'),
  whole: fc.constantFrom('intact', 'unverified', 'partial', 'overwritten'),
  place: fc.constantFrom([], ['DCIM'], ['DCIM', '100'], ['DCIM', '101'], ['letters']),
  lies: fc.integer({ min: 0, max: BYTES - 1 }),
  bytes: fc.integer({ min: 0, max: 5000 }),
})
const isoOf = (day: number | null) => (day === null ? null : `2026-11-${String(day).padStart(2, '0')}T12:00:00.000Z`)

function rowsFor(listing: number, all: readonly Made[]): NewFind[] {
  return all.map(({ day, lies, ...one }, at) => {
    const item = LinkItem.parse({ ...one, id: `r0-${at}`, made: isoOf(day) })
    const evidence: Evidence = {
      foundBy: ['quick'],
      record: one.presence,
      checks: [],
      volume: 0,
      extents: [[lies, one.bytes]],
      kept: { as: 'pieces' },
    }
    const keep = { id: 'v0', kind: 'image', title: 'CARD', asOf: null } as const
    return rowOf(listing, keep, item, { ofCase, isOwn: true, zone: 'UTC' }, evidence)
  })
}

const fits = (one: Made, filter: FindFilter) =>
  (!filter.type || one.type === filter.type) &&
  (!filter.presence || one.presence === filter.presence) &&
  (!filter.whole || (filter.whole === 'whole') === ['intact', 'unverified'].includes(one.whole)) &&
  (filter.fromByte === undefined || one.lies >= filter.fromByte) &&
  (filter.toByte === undefined || one.lies < filter.toByte) &&
  (!filter.place || `${['CARD', ...one.place].join(' / ')} / `.startsWith(`${filter.place} / `)) &&
  (!filter.find || one.name.includes(filter.find) || ['CARD', ...one.place].join(' / ').includes(filter.find))

const filters = fc.record<FindFilter>(
  {
    type: fc.constantFrom('photos', 'videos', 'documents'),
    presence: fc.constantFrom('present', 'deleted'),
    whole: fc.constantFrom('whole', 'damaged'),
    fromByte: fc.integer({ min: 0, max: BYTES }),
    toByte: fc.integer({ min: 0, max: BYTES }),
    place: fc.constantFrom('CARD', 'CARD / DCIM', 'CARD / DCIM / 100'),
    find: fc.constantFrom('weir', '%', '_', 'DCIM'),
  },
  { requiredKeys: [] },
)

describe('what is counted of a found list', () => {
  it('is what counting one by one comes to, whatever the sentence says', () => {
    fc.assert(
      fc.property(fc.array(made, { maxLength: 60 }), filters, (all, filter) => {
        const listing = newListing(true)
        database.transaction(() => void insertFinds(database, rowsFor(listing.id, all)))
        const counts = countsOf(database, listing, filter, ofCase)
        const fitting = all.filter((one) => fits(one, filter))
        expect(counts.total).toBe(all.length)
        expect(counts.matching).toBe(fitting.length)
        expect(Object.fromEntries(counts.types.map(({ type, count }) => [type, count]))).toEqual(
          Object.fromEntries(
            [...new Set(all.map(({ type }) => type))].map((type) => [
              type,
              all.filter((one) => one.type === type).length,
            ]),
          ),
        )
        // On the client's own medium, deleted items that can be recovered count as wanted.
        const wanted = all.filter(
          (one) => one.type === 'photos' && one.presence === 'deleted' && one.whole !== 'overwritten',
        )
        expect(counts.wanted).toEqual([{ id: 'w1', found: wanted.length, of: 40, verified: 0 }])
        expect(counts.days.reduce((sum, { count }) => sum + count, 0)).toBe(fitting.length)
        const anywhere = all.filter((one) => fits(one, { ...filter, fromByte: undefined, toByte: undefined }))
        const section = Array<number>(SECTION_PARTS).fill(0)
        for (const { lies } of anywhere) section[Math.floor((lies * SECTION_PARTS) / BYTES)]!++
        expect(counts.section).toEqual(section)
        // Every page of the list holds what fits, the newest first, what has no date last.
        const listed = [0, 25, 50].flatMap((offset) => findsOf(database, listing.id, filter, offset, 25))
        expect(listed.map(({ name }) => name).sort()).toEqual(fitting.map(({ name }) => name).sort())
        const dates = listed.map((one) => one.made ?? '')
        expect(dates).toEqual([...dates].sort().reverse())
      }),
      { numRuns: 60 },
    )
  })

  it('is given by folder, each with its whole subtree', () => {
    const listing = newListing(true)
    const one = {
      name: 'a.jpg',
      type: 'photos',
      day: 1,
      presence: 'deleted',
      whole: 'intact',
      lies: 0,
      bytes: 10,
    } as const
    const places = [[], ['DCIM', '100'], ['DCIM', '100'], ['DCIM', '101'], ['DCIMX'], ['letters']]
    insertFinds(
      database,
      rowsFor(
        listing.id,
        places.map((place) => ({ ...one, place })),
      ),
    )
    const told = (filter: FindFilter) =>
      foldersOf(database, listing.id, filter).map(({ name, count, bytes }) => `${name} ${count} ${bytes}`)
    expect(told({})).toEqual(['CARD 6 60'])
    expect(told({ place: 'CARD' })).toEqual(['DCIM 3 30', 'DCIMX 1 10', 'letters 1 10'])
    expect(told({ place: 'CARD / DCIM' })).toEqual(['100 2 20', '101 1 10'])
    expect(told({ place: 'CARD / DCIM / 100' })).toEqual([])
    expect(foldersOf(database, listing.id, { place: 'CARD' })[0]!.place).toBe('CARD / DCIM')
  })

  it('follows selections, the shelf, and new reports about a known item', () => {
    const listing = newListing(true)
    const one = { name: 'a.jpg', type: 'photos', presence: 'deleted', whole: 'partial', place: [], lies: 5 } as const
    const rows = rowsFor(listing.id, [
      { ...one, day: 3, bytes: 10 },
      { ...one, day: 3, bytes: 20 },
      { ...one, day: 4, bytes: 40 },
    ])
    const [first] = insertFinds(database, rows)
    expect(select(database, listing.id, { day: '2026-11-03' }, true)).toBe(2)
    expect(select(database, listing.id, { finds: [first!] }, true)).toBe(0)
    let counts = countsOf(database, listing, {}, ofCase)
    expect([counts.selected, counts.selectedBytes]).toEqual([2, 30])
    expect(counts.wholes).toEqual([{ whole: 'partial', count: 3 }])
    const [anew] = rowsFor(listing.id, [{ ...one, whole: 'intact', day: 3, bytes: 11 }])
    updateFind(database, first!, anew!)
    counts = countsOf(database, listing, { isSelected: true }, ofCase)
    expect([counts.matching, counts.selectedBytes]).toEqual([2, 31])
    const item = {
      caseId,
      link: 'm',
      item: 'v0/r0-0',
      name: '',
      type: 'photos',
      path: 'x',
      bytes: 1,
      body: '{}',
    } as const
    database
      .insert(shelfItems)
      .values({ ...item, wanted: 'w1', whole: 'intact', state: 'verified' })
      .run()
    counts = countsOf(database, listing, {}, ofCase)
    expect(counts.wanted[0]).toMatchObject({ verified: 1 })
    expect(counts.days.find(({ day }) => day === '2026-11-03')).toMatchObject({ verified: 1, count: 2 })
    const [of] = findsOfDays(database, listing.id, {}, ['2026-11-03'], 5).filter(({ find }) => find === first)
    expect(of).toMatchObject({ onShelf: 'verified', whole: 'intact', isSelected: true })
  })

  it('has no section where there is no medium', () => {
    expect(countsOf(database, newListing(false), {}, ofCase).section).toBe(null)
  })

  it('of a listing is the same in the list of listings', () => {
    const one = {
      name: 'a.jpg',
      type: 'photos',
      presence: 'deleted',
      whole: 'intact',
      place: [],
      lies: 5,
      bytes: 1,
    } as const
    const listingIds = [3, 0, 7].map((count) => {
      const listing = newListing(false)
      insertFinds(
        database,
        rowsFor(
          listing.id,
          Array.from({ length: count }, () => ({ ...one, day: 3 })),
        ),
      )
      return listing.id
    })
    const told = new Map(listingsOf(database, caseId).map(({ id, total }) => [id, total]))
    expect(listingIds.map((id) => told.get(id))).toEqual([3, 0, 7])
  })

  it('are on the shop’s days, in the days and in the list: at half past midnight, and at the end of a month', () => {
    const playbook = readPlaybook(database)
    writePlaybook(database, { ...playbook, shop: { ...playbook.shop, zone: 'Europe/London' } })
    const listing = newListing(false)
    const item = (made: string) =>
      LinkItem.parse({ id: made, name: 'night.jpg', type: 'photos', bytes: 1, made, presence: 'deleted' })
    const keep = { id: 'k', kind: 'bin', title: 'Bin', asOf: null } as const
    const judging = { ofCase, isOwn: false, zone: 'Europe/London' }
    // 00:30 of 15 July in London is still the 14th in UTC.
    const moments = ['2026-07-14T23:30:00Z', '2026-07-15T22:59:00Z', '2026-07-31T22:30:00Z', '2026-07-29T10:00:00Z']
    insertFinds(
      database,
      moments.map((made) => rowOf(listing.id, keep, item(made), judging)),
    )
    const list = (filter: FindFilter) =>
      findsOf(database, listing.id, filter, 0, 10)
        .map(({ made }) => made)
        .sort()
    const days = countsOf(database, listing, {}, ofCase).days.map(({ day, count }) => [day, count])
    expect(days).toEqual([
      ['2026-07-31', 1],
      ['2026-07-29', 1],
      ['2026-07-15', 2],
    ])
    expect(list({ fromDay: '2026-07-15', toDay: '2026-07-15' })).toEqual([moments[0], moments[1]])
    expect(list({ fromDay: '2026-07-01', toDay: '2026-07-31' })).toHaveLength(4)
    expect(findsOfDays(database, listing.id, {}, ['2026-07'], 10)).toHaveLength(4)
    const wanted = Case.parse({
      ...emptyCase(),
      wanted: [
        { id: 'w1', type: 'photos', count: 4, made: { from: '2026-07-14T23:00:00Z', to: '2026-07-16T22:59:59Z' } },
      ],
    })
    const expected = countsOf(database, listing, { wanted: 'any' }, wanted).days.filter((day) => day.expected !== null)
    expect(expected.map(({ day, expected: of }) => [day, of])).toEqual([
      ['2026-07-16', 2],
      ['2026-07-15', 2],
    ])
  })
})
