import { createHash } from 'node:crypto'
import { asc, eq, isNull } from 'drizzle-orm'
import { Case } from '../../core/cases/shape/case'
import type { Database } from '../db/open'
import { cases, history } from '../db/tables'
import { columnsOf, type Handle } from './rows'

/**
 * Gives cases from before there were identities theirs. It follows from the first entry of the history, so that the same case
 * in a database put back from a backup gets the same one.
 */
export function adoptEarlierCases(database: Database): void {
  database.transaction(
    (handle) => {
      const rows = handle.select().from(cases).where(isNull(cases.identity)).all()
      for (const { id, body, updatedAt } of rows) {
        const ofCase = Case.parse(JSON.parse(body))
        const identity = ofCase.identity ?? identityOf(handle, id)
        handle
          .update(cases)
          .set(columnsOf({ ...ofCase, identity }, Date.parse(updatedAt)))
          .where(eq(cases.id, id))
          .run()
      }
    },
    { behavior: 'immediate' },
  )
}

/** A UUID of our own making (version 8, RFC 9562, section 5.8) out of the digest of the first entry. */
function identityOf(handle: Handle, caseId: number): string {
  const first = handle
    .select({ digest: history.digest })
    .from(history)
    .where(eq(history.caseId, caseId))
    .orderBy(asc(history.id))
    .limit(1)
    .get()
  const bytes = createHash('sha256')
    .update(`identity of case ${caseId} ${first?.digest ?? ''}`)
    .digest()
    .subarray(0, 16)
  bytes[6] = (bytes[6]! & 0x0f) | 0x80
  bytes[8] = (bytes[8]! & 0x3f) | 0x80
  return bytes.toString('hex').replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, '$1-$2-$3-$4-$5')
}
