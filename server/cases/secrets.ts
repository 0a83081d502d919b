import { and, eq, inArray } from 'drizzle-orm'
import type { NewSecret, SecretNote } from '../../core/bench/secret'
import type { Case } from '../../core/cases/shape/case'
import { openRunsOf, partsReadBy } from '../../core/cases/shape/open-runs'
import type { Run } from '../../core/cases/shape/run'
import { isBeingWorked } from '../../core/cases/shape/states'
import { shopKeysOf, type Handle } from '../db/history/keys'
import { openBytes, sealBytes } from '../db/history/seal'
import type { Database } from '../db/open'
import { secrets } from '../db/tables'
import { invalid, notFound, refused } from '../failure'
import { requireNotStopped } from './consent'
import { readStored, updateCase, type Writer } from './rows'
import { writing } from './writing/writing'

/** A secret is sealed for its own place, so that two cannot be exchanged. */
const placeOf = (caseId: number, { part, kind }: Pick<SecretNote, 'part' | 'kind'>) => `${kind} of ${part} in ${caseId}`

/** What was noted for a case: which part each opens, without the secrets themselves. */
export const secretsOf = (handle: Handle, caseId: number): SecretNote[] =>
  handle
    .select({ id: secrets.id, part: secrets.part, kind: secrets.kind, at: secrets.at, by: secrets.by })
    .from(secrets)
    .where(eq(secrets.caseId, caseId))
    .orderBy(secrets.id)
    .all()

/** Notes a passcode or password for a part of a case, in place of one that was noted before; only ever stored encrypted. */
export function noteSecret(database: Database, code: string, { part, kind, value }: NewSecret, writer: Writer): void {
  writing(database, (handle) => {
    const before = readStored(handle, code)
    requireNotStopped(before)
    if (!isBeingWorked(before.case.state.name))
      throw refused('This case is no longer at the bench: nothing needs to be opened.')
    const { devices, copies } = before.case
    if (![...devices, ...copies].some(({ id }) => id === part))
      throw invalid([{ path: 'part', message: 'is no part of this case' }])
    const sealed = sealBytes(shopKeysOf(handle).secrets, Buffer.from(value, 'utf8'), placeOf(before.id, { part, kind }))
    const row = { sealed, at: new Date(writer.now).toISOString(), by: writer.by }
    handle
      .insert(secrets)
      .values({ caseId: before.id, part, kind, ...row })
      .onConflictDoUpdate({ target: [secrets.caseId, secrets.part, secrets.kind], set: row })
      .run()
    note(handle, code, part, `noted the ${kind} of ${part}`, writer)
  })
}

/** A noted secret; that it was looked at is in the history. */
export function readSecret(database: Database, code: string, id: number, writer: Writer): string {
  return writing(database, (handle) => {
    const stored = readStored(handle, code)
    requireNotStopped(stored)
    const row = Number.isInteger(id)
      ? handle
          .select()
          .from(secrets)
          .where(and(eq(secrets.id, id), eq(secrets.caseId, stored.id)))
          .get()
      : undefined
    if (!row) throw notFound('such secret')
    const value = openBytes(shopKeysOf(handle).secrets, row.sealed, placeOf(stored.id, row))
    if (!value) throw refused('It cannot be decrypted: the shop’s key is another one. Ask the client again.')
    note(handle, code, row.part, `looked at the ${row.kind} of ${row.part}`, writer)
    return value.toString('utf8')
  })
}

/** Forgets a noted secret. */
export function forgetSecret(database: Database, code: string, id: number, writer: Writer): void {
  writing(database, (handle) => {
    const stored = readStored(handle, code)
    const row = secretsOf(handle, stored.id).find((one) => one.id === id)
    if (!row) throw notFound('such secret')
    handle.delete(secrets).where(eq(secrets.id, id)).run()
    note(handle, code, row.part, `forgot the ${row.kind} of ${row.part}`, writer)
  })
}

/** Forgets what an ended run needed, unless another open run needs it too; in the transaction that ends it. */
export function forgetSecretsOfRun(handle: Handle, caseId: number, after: Case, run: Run): void {
  const stillNeeded = openRunsOf(after).flatMap((one) => partsNeededBy(after, one))
  const gone = partsNeededBy(after, run).filter((part) => !stillNeeded.includes(part))
  if (gone.length > 0)
    handle
      .delete(secrets)
      .where(and(eq(secrets.caseId, caseId), inArray(secrets.part, gone)))
      .run()
}

/** Forgets everything that was noted, once nothing is worked on any more; in the transaction that moves the case. */
export function forgetSecretsOfCase(handle: Handle, caseId: number, after: Case): void {
  if (!isBeingWorked(after.state.name)) handle.delete(secrets).where(eq(secrets.caseId, caseId)).run()
}

/** The parts that a run opens: what it reads, and the device that holds it. */
function partsNeededBy({ copies }: Case, run: Run): string[] {
  const parts = partsReadBy(run).filter((part) => part !== null)
  const devices = copies.flatMap(({ id, device }) => (parts.includes(id) && device !== 'unknown' ? [device] : []))
  return [...parts, ...devices]
}

function note(handle: Handle, code: string, fact: string, says: string, writer: Writer): void {
  const stored = readStored(handle, code)
  updateCase(handle, stored, stored.case, [{ kind: 'bench', fact, was: null, is: { says } }], writer)
}
