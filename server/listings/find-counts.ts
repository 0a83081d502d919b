import { and, desc, eq, inArray, isNotNull, sql, type SQL } from 'drizzle-orm'
import { foundAs } from '../../core/cases/shape/data-types'
import { known } from '../../core/cases/shape/fact'
import { DAY_MS } from '../../core/cases/shape/moment'
import type { Case } from '../../core/cases/shape/case'
import { dayIn, daysFrom } from '../../core/bench/days'
import { expectedPerDay } from '../../core/bench/expected'
import type { FindCounts, FindDay, FindFilter, FindFolder } from '../../core/bench/filter'
import { SECTION_PARTS } from '../../core/bench/medium'
import type { Database } from '../db/open'
import { finds, passes, shelfItems, type listings } from '../db/tables'
import { readPlaybook } from '../settings'
import { conditionOf } from './finds'

/** Longer spans are shown by month. */
const MAX_DAYS = 75
const MAX_PLACES = 60

type ListingRow = typeof listings.$inferSelect

/** All counts of a listing under a filter. */
export function countsOf(database: Database, listing: ListingRow, filter: FindFilter, ofCase: Case): FindCounts {
  const all = inRange(database, listing.id)
  const number = sql<number>`count(*)`
  // One grouped query, from which every count that does not depend on the filter is summed.
  const groups = database
    .select({
      type: finds.type,
      presence: finds.presence,
      whole: finds.whole,
      wanted: finds.wanted,
      isSelected: finds.isSelected,
      number,
      bytes: sql<number>`sum(${finds.bytes})`,
    })
    .from(finds)
    .where(all)
    .groupBy(finds.type, finds.presence, finds.whole, finds.wanted, finds.isSelected)
    .all()
  const tally = <Key>(keyOf: (group: (typeof groups)[number]) => Key) => {
    const sums = new Map<Key, number>()
    for (const group of groups) sums.set(keyOf(group), (sums.get(keyOf(group)) ?? 0) + group.number)
    return [...sums].sort(([, one], [, other]) => other - one)
  }
  const selected = groups.filter(({ isSelected }) => isSelected)
  const wanted = new Map(tally((group) => group.wanted))
  const days = database
    .select({ day: finds.day, count: number, selected: sql<number>`sum(${finds.isSelected})` })
    .from(finds)
    .where(and(all, conditionOf(filter)))
    .groupBy(finds.day)
    .all()
  const shelved = shelvedOf(database, listing, filter)
  return {
    total: groups.reduce((sum, group) => sum + group.number, 0),
    matching: days.reduce((sum, { count }) => sum + count, 0),
    selected: selected.reduce((sum, group) => sum + group.number, 0),
    selectedBytes: selected.reduce((sum, { bytes }) => sum + bytes, 0),
    wanted: ofCase.wanted.map((set) => ({
      id: set.id,
      found: wanted.get(set.id) ?? 0,
      of: known(set.count) ? set.count : null,
      verified: shelved.wanted.get(set.id) ?? 0,
    })),
    types: tally(({ type }) => type as FindCounts['types'][number]['type']).map(([type, count]) => ({ type, count })),
    presences: tally(({ presence }) => presence).map(([presence, count]) => ({ presence, count })),
    wholes: tally(({ whole }) => whole).map(([whole, count]) => ({ whole, count })),
    places: database
      .select({ place: finds.place, count: number })
      .from(finds)
      .where(all)
      .groupBy(finds.place)
      .orderBy(desc(number))
      .limit(MAX_PLACES)
      .all(),
    days: daysOf(
      new Map(days.map(({ day, ...sums }) => [day, sums])),
      shelved.days,
      expectations(filter, ofCase, readPlaybook(database).shop.zone),
    ),
    section: sectionOf(database, listing, filter),
  }
}

/** The finds of a listing as a range of ids: its rows are neighbours, and a range scan is much faster than an index. */
function inRange(database: Database, listingId: number): SQL {
  const edge = (which: 'min' | 'max') => sql`(select ${sql.raw(which)}(id) from finds where listing_id = ${listingId})`
  return sql`${finds.id} between ${edge('min')} and ${edge('max')} and +${finds.listingId} = ${listingId}`
}

/**
 * How many items begin in each part of the medium's section, without the brushed range; null for a link that is no
 * medium.
 */
function sectionOf(database: Database, listing: ListingRow, filter: FindFilter): number[] | null {
  const pass = database.select({ bytes: passes.bytes }).from(passes).where(eq(passes.listingId, listing.id)).get()
  if (!pass) return null
  const anywhere = { ...filter, fromByte: undefined, toByte: undefined }
  // Constants are written into the query: as parameters they would be reals, and every find a part of its own.
  const whole = sql.raw(`${SECTION_PARTS} / ${Math.max(1, pass.bytes)}`)
  const part = sql<number>`min(${sql.raw(String(SECTION_PARTS - 1))}, ${finds.startByte} * ${whole})`
  const rows = database
    .select({ part, count: sql<number>`count(*)` })
    .from(finds)
    .where(and(inRange(database, listing.id), conditionOf(anywhere), isNotNull(finds.startByte)))
    .groupBy(part)
    .all()
  const parts = Array<number>(SECTION_PARTS).fill(0)
  for (const { part: at, count } of rows) parts[at] = count
  return parts
}

/** Verified items on the case's shelf: per wanted set, and for this listing per day. */
function shelvedOf(database: Database, listing: ListingRow, filter: FindFilter) {
  const verified = and(eq(shelfItems.caseId, listing.caseId), eq(shelfItems.state, 'verified'))
  const number = sql<number>`count(*)`
  const sets = database
    .select({ wanted: shelfItems.wanted, number })
    .from(shelfItems)
    .where(verified)
    .groupBy(shelfItems.wanted)
    .all()
  const items = database
    .select({ item: shelfItems.item })
    .from(shelfItems)
    .where(and(verified, eq(shelfItems.link, listing.link)))
  const days = database
    .select({ day: finds.day, number })
    .from(finds)
    // A shelf has few items, so those are looked up rather than all finds.
    .where(and(inArray(finds.item, items), sql`+${finds.listingId} = ${listing.id}`, conditionOf(filter)))
    .groupBy(finds.day)
    .all()
  return {
    wanted: new Map(sets.map((row) => [row.wanted, row.number])),
    days: new Map(days.map((row) => [row.day, row.number])),
  }
}

/** The days of the finds, newest first, and the empty days for which the client expects something. */
function daysOf(
  found: ReadonlyMap<string | null, { readonly count: number; readonly selected: number }>,
  verified: ReadonlyMap<string | null, number>,
  expected: readonly Expected[],
): FindDay[] {
  const dated = [...found.keys()].filter((day) => day !== null).sort()
  const ends = (days: (string | undefined)[]) => days.flatMap((day) => (day ? [Date.parse(day)] : []))
  const first = Math.min(...ends([dated[0], ...expected.map((one) => one.from)]))
  const last = Math.max(...ends([dated.at(-1), ...expected.map((one) => one.to)]))
  const isByMonth = last - first > MAX_DAYS * DAY_MS
  const unit = (day: string) => (isByMonth ? day.slice(0, 7) : day)
  const days = new Map<string, { count: number; selected: number; verified: number; expected: number | null }>()
  const at = (day: string) => {
    const there = days.get(unit(day)) ?? { count: 0, selected: 0, verified: 0, expected: null }
    days.set(unit(day), there)
    return there
  }
  for (const day of dated) {
    const [sum, { count, selected }] = [at(day), found.get(day)!]
    sum.count += count
    sum.selected += selected
    sum.verified += verified.get(day) ?? 0
  }
  for (const { from, to, perDay } of expected)
    for (const day of daysFrom(from, to)) {
      const sum = at(day)
      sum.expected = (sum.expected ?? 0) + perDay
    }
  const told = [...days]
    .sort(([one], [other]) => (one < other ? 1 : -1))
    .map(([day, sum]): FindDay => ({ day, ...sum }))
  const undated = found.get(null)
  return undated ? [...told, { ...undated, verified: verified.get(null) ?? 0, day: null, expected: null }] : told
}

/** The expected items per day, from one day of the shop to another. */
interface Expected {
  readonly from: string
  readonly to: string
  readonly perDay: number
}

/** What the client expects, where the filter asks for wanted items. */
function expectations(filter: FindFilter, ofCase: Case, zone: string): Expected[] {
  if (!filter.wanted) return []
  const day = (ms: number) => dayIn(zone, ms)
  const latest = (...days: (string | undefined)[]) =>
    days
      .filter((one) => one !== undefined)
      .sort()
      .at(-1)!
  const earliest = (...days: (string | undefined)[]) => days.filter((one) => one !== undefined).sort()[0]!
  return ofCase.wanted
    .filter((set) => filter.wanted === 'any' || set.id === filter.wanted)
    .filter((set) => !filter.type || (known(set.type) && foundAs(set.type) === foundAs(filter.type)))
    .flatMap((set) => expectedPerDay(set) ?? [])
    .map(({ from, to, perDay }) => ({
      from: latest(day(from), filter.fromDay, filter.from && day(Date.parse(filter.from))),
      to: earliest(day(to), filter.toDay, filter.to && day(Date.parse(filter.to))),
      perDay,
    }))
    .filter((one) => one.to >= one.from)
}

const MAX_FOLDERS = 2000

/** The direct subfolders of the place that the filter names, each with all matching items inside it. */
export function foldersOf(database: Database, listingId: number, filter: FindFilter): FindFolder[] {
  const skip = filter.place === undefined ? 0 : filter.place.length + SEPARATOR.length
  const rest = sql`substr(${finds.place}, ${skip + 1})`
  const name = sql<string>`case instr(${rest}, ${SEPARATOR}) when 0 then ${rest} else substr(${rest}, 1, instr(${rest}, ${SEPARATOR}) - 1) end`
  return database
    .select({
      name,
      count: sql<number>`count(*)`,
      selected: sql<number>`sum(${finds.isSelected})`,
      bytes: sql<number>`sum(${finds.bytes})`,
    })
    .from(finds)
    .where(and(inRange(database, listingId), conditionOf(filter), sql`length(${finds.place}) >= ${skip}`))
    .groupBy(name)
    .having(sql`${name} <> ''`)
    .orderBy(name)
    .limit(MAX_FOLDERS)
    .all()
    .map((row) => ({ ...row, place: filter.place === undefined ? row.name : `${filter.place}${SEPARATOR}${row.name}` }))
}

const SEPARATOR = ' / '
