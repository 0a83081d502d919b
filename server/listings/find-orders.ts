import type { Case } from '../../core/cases/shape/case'
import type { FindFilter } from '../../core/bench/filter'
import { countsOf, foldersOf } from './find-counts'
import { findsOf, findsOfDays, select, type Which } from './finds'
import type { Database } from '../db/open'
import type { looks } from '../db/tables'

type Look = typeof looks.$inferSelect

/** What the worker of long lists does; each answers what can be sent. */
export const FIND_ORDERS = {
  page: (database: Database, look: Look, filter: FindFilter, offset: number, limit: number) =>
    findsOf(database, look.id, filter, offset, limit),
  days: (database: Database, look: Look, filter: FindFilter, days: readonly (string | null)[], each: number) =>
    findsOfDays(database, look.id, filter, days, each),
  counts: (database: Database, look: Look, filter: FindFilter, ofCase: Case) =>
    countsOf(database, look, filter, ofCase),
  folders: (database: Database, look: Look, filter: FindFilter) => foldersOf(database, look.id, filter),
  select: (database: Database, look: Look, which: Which, isSelected: boolean) =>
    select(database, look.id, which, isSelected),
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
