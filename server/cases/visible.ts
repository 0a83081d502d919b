import { and, eq } from 'drizzle-orm'
import type { Role } from '../../core/people/person'
import type { Database } from '../db/open'
import { cases } from '../db/tables'
import { notFound } from '../failure'

/** Whether people of this role see cases that are stopped. */
export const seesStopped = (role: Role): boolean => role === 'owner'

/** Only cases that people of this role see. */
export const visibleTo = (role: Role) => (seesStopped(role) ? undefined : eq(cases.isStopped, false))

/** Throws a Failure where a case is hidden from this role, as if it were not there. */
export function requireVisible(database: Database, code: string, role: Role): void {
  if (seesStopped(role)) return
  const hidden = database
    .select({ id: cases.id })
    .from(cases)
    .where(and(eq(cases.code, code), eq(cases.isStopped, true)))
    .get()
  if (hidden) throw notFound(`case ${code}`)
}
