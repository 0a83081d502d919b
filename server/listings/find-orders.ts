import type { Case } from '../../core/cases/shape/case'
import type { FindFilter } from '../../core/bench/filter'
import { countsOf, foldersOf } from './find-counts'
import { findsOf, findsOfDays, select, type Which } from './finds'
import type { Database } from '../db/open'
import type { listings } from '../db/tables'

type ListingRow = typeof listings.$inferSelect

/** The queries that the worker for long lists answers; every answer can be sent between threads. */
export const FIND_ORDERS = {
  page: (database: Database, listing: ListingRow, filter: FindFilter, offset: number, limit: number) =>
    findsOf(database, listing.id, filter, offset, limit),
  days: (database: Database, listing: ListingRow, filter: FindFilter, days: readonly (string | null)[], each: number) =>
    findsOfDays(database, listing.id, filter, days, each),
  counts: (database: Database, listing: ListingRow, filter: FindFilter, ofCase: Case) =>
    countsOf(database, listing, filter, ofCase),
  folders: (database: Database, listing: ListingRow, filter: FindFilter) => foldersOf(database, listing.id, filter),
  select: (database: Database, listing: ListingRow, which: Which, isSelected: boolean) =>
    select(database, listing.id, which, isSelected),
}
type Orders = typeof FIND_ORDERS
export type FindOrderName = keyof Orders

type Rest<Work> = Work extends (database: Database, ...rest: infer Given) => unknown ? Given : never
export type FindGiven<Name extends FindOrderName> = Rest<Orders[Name]>
export type FindResult<Name extends FindOrderName> = ReturnType<Orders[Name]>

export interface FindOrder {
  readonly name: FindOrderName
  readonly given: readonly unknown[]
}
