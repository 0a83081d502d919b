import { desc, eq, sql } from 'drizzle-orm'
import { z } from 'zod'
import { WipeRecord } from '../../core/afterwards/record'
import type { Handle } from '../db/history/keys'
import { cases, wipes } from '../db/tables'
import type { WipeLine } from '../../disk/wipe-ledger'

const Body = WipeRecord.omit({ id: true }).extend({
  isDone: z.boolean(),
  /** what is still to be unlinked; empty once it is done, since paths hold names */
  left: z.array(z.string()),
})

/** A record as it is stored: with the case that it is about, and what is left to do. */
export interface StoredRecord extends z.infer<typeof Body> {
  readonly id: number
  readonly caseId: number
}

type NewRecord = Omit<WipeRecord, 'id'>

export function keepRecord(handle: Handle, caseId: number, record: NewRecord, left: readonly string[]): StoredRecord {
  const body = { ...record, isDone: false, left: [...left] }
  const { part, at, by } = record
  const { id } = handle
    .insert(wipes)
    .values({ caseId, part, at, by, body: JSON.stringify(body) })
    .returning({ id: wipes.id })
    .get()
  return { ...body, id, caseId }
}

export function markDone(handle: Handle, { id, caseId: _, ...record }: StoredRecord): void {
  const body = JSON.stringify({ ...record, isDone: true, left: [] } satisfies z.infer<typeof Body>)
  handle.update(wipes).set({ body }).where(eq(wipes.id, id)).run()
}

const stored = ({ id, caseId, body }: typeof wipes.$inferSelect): StoredRecord => ({
  ...Body.parse(JSON.parse(body)),
  id,
  caseId,
})

/** Records of wipes that were begun and not finished. */
export const unfinished = (handle: Handle): StoredRecord[] =>
  handle
    .select()
    .from(wipes)
    .where(sql`not json_extract(${wipes.body}, '$.isDone')`)
    .all()
    .map(stored)

const shown = (row: typeof wipes.$inferSelect): WipeRecord => WipeRecord.parse(stored(row))

export const recordsOf = (handle: Handle, caseId: number): WipeRecord[] =>
  handle.select().from(wipes).where(eq(wipes.caseId, caseId)).orderBy(desc(wipes.id)).all().map(shown)

export const latestRecords = (handle: Handle, most: number): WipeRecord[] =>
  handle.select().from(wipes).orderBy(desc(wipes.id)).limit(most).all().map(shown)

/** Every wipe that the database knows, as lines of the ledger. */
export const knownWipes = (handle: Handle): WipeLine[] =>
  handle
    .select({ identity: cases.identity, code: cases.code, part: wipes.part, at: wipes.at })
    .from(wipes)
    .innerJoin(cases, eq(cases.id, wipes.caseId))
    .all()
    .flatMap(({ identity, ...line }) => (identity === null ? [] : [{ identity, ...line }]))
