import { randomUUID } from 'node:crypto'
import { eq } from 'drizzle-orm'
import { countedFrom } from '../../core/afterwards/standing'
import { Case } from '../../core/cases/shape/case'
import { known } from '../../core/cases/shape/fact'
import { frozenBy } from '../../core/cases/shape/freeze'
import { digitsOf } from '../../core/cases/shape/client'
import type { Database } from '../db/open'
import { appendHistory, type Happening } from '../db/history/entries'
import type { Handle } from '../db/history/keys'
import { cases } from '../db/tables'
import { indexCase, indexHappenings } from '../search/index-cases'
import { notFound } from '../failure'
import { keepInLedger } from './ledger-rows'

export { historySince, type Happening } from '../db/history/entries'
export type { Handle } from '../db/history/keys'

export interface StoredCase {
  readonly id: number
  readonly version: number
  readonly case: Case
}

/** Who writes, and when (ms since the epoch). */
export interface Writer {
  readonly by: string
  readonly now: number
}

export function readStored(handle: Handle, code: string): StoredCase {
  const row = handle.select().from(cases).where(eq(cases.code, code)).get()
  if (!row) throw notFound(`case ${code}`)
  return { id: row.id, version: row.version, case: Case.parse(JSON.parse(row.body)) }
}

/** The document of a case, and the columns beside it. `now`: ms. */
export const columnsOf = (ofCase: Case, now: number) => ({
  body: JSON.stringify(ofCase),
  state: ofCase.state.name,
  isStopped: frozenBy(ofCase.freezes) !== null,
  clientId: ofCase.client.id,
  clientName: known(ofCase.client.name) ? ofCase.client.name : '',
  phoneDigits: known(ofCase.client.phone) ? digitsOf(ofCase.client.phone) : '',
  identity: ofCase.identity,
  endedAt: ofCase.wiping.person ? null : countedFrom(ofCase),
  isDataWiped: ofCase.wiping.data !== null,
  updatedAt: new Date(now).toISOString(),
})

/** The code under which a case is here; null where it is not. */
export const codeOfIdentity = (handle: Handle, identity: string): string | null =>
  handle.select({ code: cases.code }).from(cases).where(eq(cases.identity, identity)).get()?.code ?? null

/** Stores a new case; one that has no identity gets one. */
export function insertCase(handle: Handle, given: Case, happenings: readonly Happening[], writer: Writer): StoredCase {
  const ofCase = { ...given, identity: given.identity ?? randomUUID() }
  const row = handle
    .insert(cases)
    .values({ code: ofCase.code, version: 1, ...columnsOf(ofCase, writer.now) })
    .returning({ id: cases.id })
    .get()
  indexCase(handle, row.id, ofCase)
  keepInLedger(handle, row.id, ofCase, writer.now)
  append(handle, placeOf(row.id, 1, writer), happenings)
  return { id: row.id, version: 1, case: ofCase }
}

/** Stores the next version of a case together with what happened to it. */
export function updateCase(
  handle: Handle,
  before: StoredCase,
  after: Case,
  happenings: readonly Happening[],
  writer: Writer,
): StoredCase {
  const version = before.version + 1
  handle
    .update(cases)
    .set({ version, ...columnsOf(after, writer.now) })
    .where(eq(cases.id, before.id))
    .run()
  if (after !== before.case) {
    indexCase(handle, before.id, after)
    keepInLedger(handle, before.id, after, writer.now)
  }
  append(handle, placeOf(before.id, version, writer), happenings)
  return { id: before.id, version, case: after }
}

const placeOf = (caseId: number, version: number, { by, now }: Writer) => ({
  caseId,
  version,
  at: new Date(now).toISOString(),
  by,
})

/** Writes entries of the history, and what they say into the index. */
const append = (handle: Handle, place: ReturnType<typeof placeOf>, happenings: readonly Happening[]) =>
  indexHappenings(handle, appendHistory(handle, place, happenings), happenings)

/** Notes in the history what was done at the bench; the case itself does not change. */
export function noteHappening(database: Database, code: string, happening: Happening, writer: Writer): void {
  // With the write lock from the first read on: scans write to the database at the same time.
  database.transaction(
    (transaction) => {
      const { id, version } = readStored(transaction, code)
      append(transaction, placeOf(id, version, writer), [happening])
    },
    { behavior: 'immediate' },
  )
}
