import type { H3Event } from 'h3'
import type { z } from 'zod'
import { faultsOf } from '../../core/cases/shape/faults'
import { LedgerFilter } from '../../core/ledger/filter'
import { may, type Person } from '../../core/people/person'
import { Failure, invalid } from '../failure'

/** What an address asks for, by a schema; throws a Failure where it asks for something else. */
export function queryAs<Schema extends z.ZodType>(event: H3Event, schema: Schema): z.output<Schema> {
  const read = schema.safeParse(getQuery(event))
  if (!read.success) throw invalid(faultsOf(read.error), 'The filter')
  return read.data
}

/** The filter of a reader of the ledger: the figures of one person are for owners. */
export function ledgerFilterOf(event: H3Event, person: Person): LedgerFilter {
  const filter = queryAs(event, LedgerFilter)
  if (filter.by !== undefined && filter.by !== person.name && !may(person.role, 'people'))
    throw new Failure('not-allowed', 'Only the owner sees the figures of others.')
  return filter
}
