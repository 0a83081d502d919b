import { and, asc, between, desc, eq, gte, inArray, isNull, like, lte, or, sql, type SQL } from 'drizzle-orm'
import { known } from '../../core/cases/fact'
import { DAY_MS } from '../../core/cases/moment'
import type { Case } from '../../core/cases/case'
import { expectedPerDay } from '../../core/finding/expected'
import type { Find, FindCounts, FindDay, FindFilter } from '../../core/finding/filter'
import type { LinkItem } from '../../core/links/item'
import { finds, looks, shelfItems } from '../db/tables'
import { Failure } from '../failure'

/** Longer spans are shown by the month. */
const MOST_DAYS = 75

const escapeLike = (text: string) => text.replace(/[\\%_]/g, (letter) => `\\${letter}`)

/** What the sentence of the found list asks for, as a condition. */
export function conditionOf(lookId: number, filter: FindFilter): SQL | undefined {
  const parts: (SQL | undefined)[] = [eq(finds.lookId, lookId)]
  if (filter.type) parts.push(eq(finds.type, filter.type))
  if (filter.presence) parts.push(eq(finds.presence, filter.presence))
  if (filter.whole)
    parts.push(inArray(finds.whole, filter.whole === 'whole' ? ['intact', 'unverified'] : ['partial', 'overwritten']))
  if (filter.from) parts.push(gte(finds.made, filter.from))
  if (filter.to) parts.push(lte(finds.made, filter.to))
  if (filter.isUndated) parts.push(isNull(finds.made))
  if (filter.place)
    parts.push(
      or(eq(finds.place, filter.place), sql`${finds.place} like ${`${escapeLike(filter.place)} / %`} escape '\\'`),
    )
  if (filter.find) parts.push(nameCondition(filter.find))
  if (filter.least !== undefined) parts.push(gte(finds.bytes, filter.least))
  if (filter.most !== undefined) parts.push(lte(finds.bytes, filter.most))
  if (filter.wanted === 'any') parts.push(sql`${finds.wanted} is not null`)
  else if (filter.wanted) parts.push(eq(finds.wanted, filter.wanted))
  if (filter.isMarked) parts.push(eq(finds.isMarked, true))
  return and(...parts)
}

function nameCondition(find: string): SQL {
  const extension = /^\*?\.([a-z0-9]{1,10})$/i.exec(find)?.[1]
  if (extension) return eq(finds.extension, extension.toLowerCase())
  return or(
    like(finds.name, sql`${`%${escapeLike(find)}%`} escape '\\'`),
    like(finds.body, sql`${`%${escapeLike(JSON.stringify(find).slice(1, -1))}%`} escape '\\'`),
  )!
}

const columns = {
  find: finds.id,
  item: finds.item,
  day: finds.day,
  wanted: finds.wanted,
  isMarked: finds.isMarked,
  made: finds.made,
  body: finds.body,
}

/** A page of the found list, the newest first. */
export function findsOf(lookId: number, filter: FindFilter, offset: number, limit: number): Find[] {
  const rows = useLantern()
    .database.select(columns)
    .from(finds)
    .where(conditionOf(lookId, filter))
    .orderBy(sql`${finds.made} is null`, desc(finds.made), asc(finds.id))
    .limit(limit)
    .offset(offset)
    .all()
  return withShelf(lookId, rows)
}

/** The first items of each of some days or months. */
export function findsOfDays(
  lookId: number,
  filter: FindFilter,
  days: readonly (string | null)[],
  each: number,
): Find[] {
  const { database } = useLantern()
  const rows = days.flatMap((day) =>
    database
      .select(columns)
      .from(finds)
      .where(and(conditionOf(lookId, filter), day === null ? isNull(finds.day) : dayCondition(day)))
      .orderBy(desc(finds.made), asc(finds.id))
      .limit(each)
      .all(),
  )
  return withShelf(lookId, rows)
}

/** A day, or all days of a month. */
export const dayCondition = (day: string) =>
  day.length === 7 ? between(finds.day, `${day}-01`, `${day}-31`) : eq(finds.day, day)

type Row = {
  find: number
  item: string
  day: string | null
  wanted: string | null
  isMarked: boolean
  made: string | null
  body: string
}

function withShelf(lookId: number, rows: readonly Row[]): Find[] {
  const shelf = shelfStates(
    lookId,
    rows.map((row) => row.item),
  )
  return rows.map(({ body, item, made, ...row }) => {
    const stored = JSON.parse(body) as LinkItem & Pick<Find, 'keep' | 'keepTitle' | 'asOf'>
    return {
      ...stored,
      made: stored.made ?? (stored.changed === null ? made : stored.made),
      ...row,
      onShelf: shelf.get(item) ?? null,
    }
  })
}

/** What of these lies on the case's shelf already, whatever look brought it there. */
function shelfStates(lookId: number, items: readonly string[]): Map<string, Find['onShelf']> {
  const { database } = useLantern()
  const states = new Map<string, Find['onShelf']>()
  const look = database.select().from(looks).where(eq(looks.id, lookId)).get()
  if (!look) return states
  for (let at = 0; at < items.length; at += 500) {
    const rows = database
      .select({ item: shelfItems.item, state: shelfItems.state, link: shelfItems.link })
      .from(shelfItems)
      .where(
        and(
          eq(shelfItems.caseId, look.caseId),
          eq(shelfItems.link, look.link),
          inArray(shelfItems.item, items.slice(at, at + 500)),
        ),
      )
      .all()
    for (const { item, state } of rows) if (state !== 'waiting') states.set(item, state)
  }
  return states
}

/** One find with all that is known of it; a Failure where the look has none of this number. */
export function findOf(lookId: number, find: number): Find {
  const row = Number.isInteger(find)
    ? useLantern()
        .database.select(columns)
        .from(finds)
        .where(and(eq(finds.lookId, lookId), eq(finds.id, find)))
        .get()
    : undefined
  if (!row) throw new Failure('not-found', 'That item is not in the list any more; look again.')
  return withShelf(lookId, [row])[0]!
}

/** Marks or unmarks items: some by their numbers, or all that the sentence asks for. Answers how many changed. */
export function mark(
  lookId: number,
  which: { finds?: readonly number[]; filter?: FindFilter; day?: string | null },
  isMarked: boolean,
): number {
  const { database } = useLantern()
  return database.transaction((transaction) => {
    const where = which.finds
      ? and(eq(finds.lookId, lookId), inArray(finds.id, [...which.finds]))
      : and(
          conditionOf(lookId, which.filter ?? {}),
          which.day === undefined ? undefined : which.day === null ? isNull(finds.day) : dayCondition(which.day),
        )
    return transaction
      .update(finds)
      .set({ isMarked })
      .where(and(where, eq(finds.isMarked, !isMarked)))
      .run().changes
  })
}

/** Everything that is counted about a look by a filter. */
export function countsOf(look: typeof looks.$inferSelect, filter: FindFilter, ofCase: Case): FindCounts {
  const { database } = useLantern()
  const all = eq(finds.lookId, look.id)
  const matching = conditionOf(look.id, filter)
  const number = sql<number>`count(*)`
  const one = (where: SQL | undefined) => database.select({ number }).from(finds).where(where).get()?.number ?? 0
  const marked = database
    .select({ number, bytes: sql<number>`coalesce(sum(${finds.bytes}), 0)` })
    .from(finds)
    .where(and(all, eq(finds.isMarked, true)))
    .get()
  const verified = database
    .select({ wanted: shelfItems.wanted, number })
    .from(shelfItems)
    .where(and(eq(shelfItems.caseId, look.caseId), eq(shelfItems.state, 'verified')))
    .groupBy(shelfItems.wanted)
    .all()
  const found = database.select({ wanted: finds.wanted, number }).from(finds).where(all).groupBy(finds.wanted).all()
  return {
    total: one(all),
    matching: one(matching),
    marked: marked?.number ?? 0,
    markedBytes: marked?.bytes ?? 0,
    wanted: ofCase.wanted.map((set) => ({
      id: set.id,
      found: found.find((row) => row.wanted === set.id)?.number ?? 0,
      of: known(set.count) ? set.count : null,
      verified: verified.find((row) => row.wanted === set.id)?.number ?? 0,
    })),
    types: database
      .select({ type: finds.type, count: number })
      .from(finds)
      .where(all)
      .groupBy(finds.type)
      .orderBy(desc(number))
      .all() as FindCounts['types'],
    places: database
      .select({ place: finds.place, count: number })
      .from(finds)
      .where(all)
      .groupBy(finds.place)
      .orderBy(desc(number))
      .limit(60)
      .all(),
    presences: database
      .select({ presence: finds.presence, count: number })
      .from(finds)
      .where(all)
      .groupBy(finds.presence)
      .all(),
    wholes: database.select({ whole: finds.whole, count: number }).from(finds).where(all).groupBy(finds.whole).all(),
    days: daysOf(look, matching, filter, ofCase),
  }
}

/** The days of what was found, the newest first, with the empty ones that the client expects something of. */
function daysOf(
  look: typeof looks.$inferSelect,
  matching: SQL | undefined,
  filter: FindFilter,
  ofCase: Case,
): FindDay[] {
  const { database } = useLantern()
  const span = database
    .select({ from: sql<string | null>`min(${finds.day})`, to: sql<string | null>`max(${finds.day})` })
    .from(finds)
    .where(matching)
    .get()
  const expected = expectations(filter, ofCase)
  const first = Math.min(
    ...[span?.from, ...expected.map((one) => iso(one.from))].flatMap((day) => (day ? [Date.parse(day)] : [])),
  )
  const last = Math.max(
    ...[span?.to, ...expected.map((one) => iso(one.to))].flatMap((day) => (day ? [Date.parse(day)] : [])),
  )
  const isByMonth = last - first > MOST_DAYS * DAY_MS
  const unit = isByMonth ? sql<string | null>`substr(${finds.day}, 1, 7)` : sql<string | null>`${finds.day}`
  const rows = database
    .select({
      day: unit,
      count: sql<number>`count(*)`,
      marked: sql<number>`sum(${finds.isMarked})`,
      verified: sql<number>`sum(exists (select 1 from ${shelfItems} where ${shelfItems.caseId} = ${look.caseId} and ${shelfItems.link} = ${look.link} and ${shelfItems.item} = ${finds.item} and ${shelfItems.state} = 'verified'))`,
    })
    .from(finds)
    .where(matching)
    .groupBy(unit)
    .all()
  const byDay = new Map(rows.map((row) => [row.day, row]))
  const days = new Set(rows.flatMap((row) => (row.day === null ? [] : [row.day])))
  const expectedOn = new Map<string, number>()
  for (const { from, to, perDay } of expected)
    for (let at = Date.parse(iso(from)); at <= to; at += DAY_MS) {
      const day = isByMonth ? iso(at).slice(0, 7) : iso(at)
      expectedOn.set(day, (expectedOn.get(day) ?? 0) + perDay)
      days.add(day)
    }
  const dated = [...days]
    .sort()
    .reverse()
    .map((day): FindDay => ({
      day,
      count: byDay.get(day)?.count ?? 0,
      marked: byDay.get(day)?.marked ?? 0,
      verified: byDay.get(day)?.verified ?? 0,
      expected: expectedOn.get(day) ?? null,
    }))
  const undated = byDay.get(null)
  return undated ? [...dated, { ...undated, day: null, expected: null }] : dated
}

const iso = (ms: number) => new Date(ms).toISOString().slice(0, 10)

/** What the client expects, where the sentence asks for what is wanted. */
function expectations(filter: FindFilter, ofCase: Case) {
  if (!filter.wanted) return []
  return ofCase.wanted
    .filter((set) => filter.wanted === 'any' || set.id === filter.wanted)
    .filter((set) => !filter.type || set.type === filter.type)
    .flatMap((set) => expectedPerDay(set) ?? [])
    .map(({ from, to, perDay }) => ({
      from: filter.from ? Math.max(from, Date.parse(filter.from)) : from,
      to: filter.to ? Math.min(to, Date.parse(filter.to)) : to,
      perDay,
    }))
    .filter((one) => one.to >= one.from)
}
