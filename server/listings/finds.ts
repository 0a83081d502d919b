import { and, asc, between, desc, eq, gte, inArray, isNull, lt, lte, or, sql, type SQL } from 'drizzle-orm'
import { endsOf } from '../../core/bench/days'
import type { Find, FindFilter } from '../../core/bench/filter'
import { beginsWith, holds } from '../db/like'
import type { Database } from '../db/open'
import { readStoredFind } from '../db/stored-find'
import { findBodies, finds, listings, shelfItems } from '../db/tables'
import { Failure } from '../failure'

/** The filter as a condition of the query. */
export function conditionOf(filter: FindFilter): SQL | undefined {
  const parts: (SQL | undefined)[] = []
  if (filter.type) parts.push(eq(finds.type, filter.type))
  if (filter.presence) parts.push(eq(finds.presence, filter.presence))
  if (filter.whole)
    parts.push(inArray(finds.whole, filter.whole === 'whole' ? ['intact', 'unverified'] : ['partial', 'overwritten']))
  if (filter.from) parts.push(gte(finds.made, filter.from))
  if (filter.to) parts.push(lte(finds.made, filter.to))
  if (filter.fromDay) parts.push(gte(finds.day, filter.fromDay))
  if (filter.toDay) parts.push(lte(finds.day, filter.toDay))
  if (filter.isUndated) parts.push(isNull(finds.made))
  if (filter.place) parts.push(or(eq(finds.place, filter.place), beginsWith(finds.place, `${filter.place} / `)))
  if (filter.find) parts.push(nameCondition(filter.find))
  if (filter.least !== undefined) parts.push(gte(finds.bytes, filter.least))
  if (filter.most !== undefined) parts.push(lte(finds.bytes, filter.most))
  if (filter.wanted === 'any') parts.push(sql`${finds.wanted} is not null`)
  else if (filter.wanted) parts.push(eq(finds.wanted, filter.wanted))
  if (filter.isSelected) parts.push(eq(finds.isSelected, true))
  if (filter.fromByte !== undefined) parts.push(gte(finds.startByte, filter.fromByte))
  if (filter.toByte !== undefined) parts.push(lt(finds.startByte, filter.toByte))
  return and(...parts)
}

function nameCondition(find: string): SQL {
  const extension = /^\*?\.([a-z0-9]{1,10})$/i.exec(find)?.[1]
  if (extension) return eq(finds.extension, extension.toLowerCase())
  return or(
    holds(finds.name, find),
    // The text of records is searched too; an item on a medium has only its name and place.
    and(
      isNull(finds.startByte),
      sql`exists (select 1 from ${findBodies} where ${findBodies.findId} = ${finds.id} and ${holds(findBodies.body, JSON.stringify(find).slice(1, -1))})`,
    ),
    holds(finds.place, find),
  )!
}

const columns = {
  find: finds.id,
  item: finds.item,
  day: finds.day,
  wanted: finds.wanted,
  isSelected: finds.isSelected,
  made: finds.made,
}

/** A page of the found list, newest first. */
export function findsOf(
  database: Database,
  listingId: number,
  filter: FindFilter,
  offset: number,
  limit: number,
): Find[] {
  const rows = database
    .select(columns)
    .from(finds)
    .where(and(eq(finds.listingId, listingId), conditionOf(filter)))
    // Items without a date sort last in this order.
    .orderBy(desc(finds.made), asc(finds.id))
    .limit(limit)
    .offset(offset)
    .all()
  return withBodies(database, listingId, rows)
}

/** The first items of each of some days or months. */
export function findsOfDays(
  database: Database,
  listingId: number,
  filter: FindFilter,
  days: readonly (string | null)[],
  each: number,
): Find[] {
  const rows = days.flatMap((day) =>
    database
      .select(columns)
      .from(finds)
      .where(
        and(eq(finds.listingId, listingId), conditionOf(filter), day === null ? isNull(finds.day) : dayCondition(day)),
      )
      .orderBy(desc(finds.made), asc(finds.id))
      .limit(each)
      .all(),
  )
  return withBodies(database, listingId, rows)
}

/** A day, or all days of a month. */
export function dayCondition(day: string): SQL {
  const { first, last } = endsOf(day)
  return between(finds.day, first, last)
}

type Row = Pick<Find, 'find' | 'day' | 'wanted' | 'isSelected' | 'made'> & { readonly item: string }

function withBodies(database: Database, listingId: number, rows: readonly Row[]): Find[] {
  const shelf = shelfStates(
    database,
    listingId,
    rows.map((row) => row.item),
  )
  const bodies = new Map<number, string>()
  for (let at = 0; at < rows.length; at += 500) {
    const numbers = rows.slice(at, at + 500).map(({ find }) => find)
    for (const { findId, body } of database.select().from(findBodies).where(inArray(findBodies.findId, numbers)).all())
      bodies.set(findId, body)
  }
  return rows.map(({ item, made, ...row }) => {
    const stored = readStoredFind(bodies.get(row.find)!)
    return {
      ...stored,
      made: stored.made ?? (stored.changed === null ? made : stored.made),
      ...row,
      onShelf: shelf.get(item) ?? null,
    }
  })
}

/** Which of these items are on the case's shelf, whichever listing they came from. */
function shelfStates(database: Database, listingId: number, items: readonly string[]): Map<string, Find['onShelf']> {
  const states = new Map<string, Find['onShelf']>()
  const listing = database.select().from(listings).where(eq(listings.id, listingId)).get()
  if (!listing) return states
  for (let at = 0; at < items.length; at += 500) {
    const rows = database
      .select({ item: shelfItems.item, state: shelfItems.state, link: shelfItems.link })
      .from(shelfItems)
      .where(
        and(
          eq(shelfItems.caseId, listing.caseId),
          eq(shelfItems.link, listing.link),
          inArray(shelfItems.item, items.slice(at, at + 500)),
        ),
      )
      .all()
    for (const { item, state } of rows) if (state !== 'waiting') states.set(item, state)
  }
  return states
}

/** One find with everything that is known of it; throws a Failure where the listing has none of this number. */
export function findOf(database: Database, listingId: number, find: number): Find {
  const row = Number.isInteger(find)
    ? database
        .select(columns)
        .from(finds)
        .where(and(eq(finds.listingId, listingId), eq(finds.id, find)))
        .get()
    : undefined
  if (!row) throw new Failure('not-found', 'That item is no longer in the list. List the items again.')
  return withBodies(database, listingId, [row])[0]!
}

export interface Which {
  readonly finds?: readonly number[]
  readonly filter?: FindFilter
  readonly day?: string | null
}

/** Selects or deselects items: some by their numbers, or all that match the filter. Returns how many changed. */
export function select(database: Database, listingId: number, which: Which, isSelected: boolean): number {
  return database.transaction((transaction) => {
    const where = which.finds
      ? and(eq(finds.listingId, listingId), inArray(finds.id, [...which.finds]))
      : and(
          eq(finds.listingId, listingId),
          conditionOf(which.filter ?? {}),
          which.day === undefined ? undefined : which.day === null ? isNull(finds.day) : dayCondition(which.day),
        )
    return transaction
      .update(finds)
      .set({ isSelected })
      .where(and(where, eq(finds.isSelected, !isSelected)))
      .run().changes
  })
}
