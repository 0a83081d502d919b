import { and, eq, gt } from 'drizzle-orm'
import { Case } from '../../core/cases/shape/case'
import type { HistoryEntry } from '../../core/cases/telling/history'
import { known } from '../../core/cases/shape/fact'
import { digitsOf } from '../../core/cases/shape/client'
import type { Database } from '../db/open'
import { cases, history } from '../db/tables'
import { notFound } from '../failure'

/** A transaction or the database itself. */
export type Handle = Parameters<Parameters<Database['transaction']>[0]>[0] | Database

export interface StoredCase {
  readonly id: number
  readonly version: number
  readonly case: Case
}

/** A change as an entry of the history. */
export type Happening = Pick<HistoryEntry, 'kind' | 'fact' | 'was' | 'is'>

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

const columnsOf = (ofCase: Case, writer: Writer) => ({
  body: JSON.stringify(ofCase),
  state: ofCase.state.name,
  clientId: ofCase.client.id,
  clientName: known(ofCase.client.name) ? ofCase.client.name : '',
  phoneDigits: known(ofCase.client.phone) ? digitsOf(ofCase.client.phone) : '',
  updatedAt: new Date(writer.now).toISOString(),
})

export function insertCase(handle: Handle, ofCase: Case, happenings: readonly Happening[], writer: Writer): StoredCase {
  const row = handle
    .insert(cases)
    .values({ code: ofCase.code, version: 1, ...columnsOf(ofCase, writer) })
    .returning({ id: cases.id })
    .get()
  insertHistory(handle, row.id, 1, happenings, writer)
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
    .set({ version, ...columnsOf(after, writer) })
    .where(eq(cases.id, before.id))
    .run()
  insertHistory(handle, before.id, version, happenings, writer)
  return { id: before.id, version, case: after }
}

function insertHistory(
  handle: Handle,
  caseId: number,
  version: number,
  happenings: readonly Happening[],
  writer: Writer,
): void {
  const at = new Date(writer.now).toISOString()
  for (const { kind, fact, was, is } of happenings)
    handle
      .insert(history)
      .values({
        caseId,
        version,
        at,
        by: writer.by,
        kind,
        fact,
        was: JSON.stringify(was ?? null),
        is: JSON.stringify(is ?? null),
      })
      .run()
}

/** What happened to a case after a version, oldest first. */
export function historySince(handle: Handle, caseId: number, version: number): HistoryEntry[] {
  const rows = handle
    .select()
    .from(history)
    .where(and(eq(history.caseId, caseId), gt(history.version, version)))
    .orderBy(history.id)
    .all()
  return rows.map(({ caseId: _, ...row }) => ({ ...row, was: JSON.parse(row.was), is: JSON.parse(row.is) }))
}

/** Notes in the history what was done at the bench; the case itself does not change. */
export function noteHappening(handle: Handle, code: string, happening: Happening, writer: Writer): void {
  const { id, version } = readStored(handle, code)
  insertHistory(handle, id, version, [happening], writer)
}
