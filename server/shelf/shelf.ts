import { and, asc, count, eq, inArray, sql } from 'drizzle-orm'
import type { ShelfList, ShelfState } from '../../core/bench/shelf'
import { formatsFor } from '../../core/records/exports/registry'
import { RECORD_KINDS, type AppRecord } from '../../core/records/record'
import { readStoredFind } from '../db/stored-find'
import { readStored } from '../cases/rows'
import { shelfItems, shelfJobs } from '../db/tables'
import { refused } from '../failure'
import { latestHandout } from './hand-out-state'
import { shelfRoom } from './room'

export type ShelfRow = typeof shelfItems.$inferSelect

/** Cases whose shelf is being copied to by this server. */
export const copying = new Set<number>()

/** Why copying stopped, by case, until it can be recorded: the full disk is the database's too. */
export const unwritten = new Map<number, string>()

/** The latest copy job of a case. One that nobody works on has stopped, whatever its row says. */
export function latestJob(caseId: number): typeof shelfJobs.$inferSelect | undefined {
  const job = useLantern()
    .database.select()
    .from(shelfJobs)
    .where(eq(shelfJobs.caseId, caseId))
    .orderBy(sql`${shelfJobs.id} desc`)
    .limit(1)
    .get()
  return job?.state === 'running' && !copying.has(caseId)
    ? { ...job, state: 'stopped', says: unwritten.get(caseId) ?? BROKEN_OFF }
    : job
}

const BROKEN_OFF = 'Copying stopped unexpectedly. Resume to continue from where it stopped.'

/** The state of a case's shelf. */
export async function shelfState(caseId: number): Promise<ShelfState> {
  const { database } = useLantern()
  const job = latestJob(caseId)
  const rows = database
    .select({ state: shelfItems.state, count: count(), bytes: sql<number>`coalesce(sum(${shelfItems.bytes}), 0)` })
    .from(shelfItems)
    .where(eq(shelfItems.caseId, caseId))
    .groupBy(shelfItems.state)
    .all()
  const of = (state: ShelfRow['state']) => rows.find((row) => row.state === state) ?? { count: 0, bytes: 0 }
  const verified = and(eq(shelfItems.caseId, caseId), eq(shelfItems.state, 'verified'))
  const wholes = database
    .select({ whole: shelfItems.whole, count: count() })
    .from(shelfItems)
    .where(verified)
    .groupBy(shelfItems.whole)
    .all()
  const ofWhole = (whole: ShelfRow['whole']) => wholes.find((row) => row.whole === whole)?.count ?? 0
  return {
    job: job ? { id: job.id, state: job.state, says: job.says, begun: job.begun } : null,
    waiting: of('waiting').count,
    copied: of('copied').count,
    verified: of('verified').count,
    failed: of('failed').count,
    damaged: ofWhole('partial'),
    unverified: ofWhole('unverified'),
    bytes: of('copied').bytes + of('verified').bytes,
    waitingBytes: of('waiting').bytes,
    free: await shelfRoom(),
    handout: latestHandout(caseId),
    wanted: database
      .select({ id: shelfItems.wanted, verified: count() })
      .from(shelfItems)
      .where(verified)
      .groupBy(shelfItems.wanted)
      .all()
      .flatMap((row) => (row.id === null ? [] : [{ id: row.id, verified: row.verified }])),
  }
}

/** Throws a Failure while items of a run are being copied: its result would miss them. */
export function requireCopied(code: string, run: string): void {
  const { database } = useLantern()
  const { id } = readStored(database, code)
  if (!copying.has(id)) return
  const waiting = database
    .select({ count: count() })
    .from(shelfItems)
    .where(and(eq(shelfItems.caseId, id), eq(shelfItems.runId, run), inArray(shelfItems.state, ['waiting', 'copied'])))
    .get()!.count
  if (waiting > 0)
    throw refused(
      `${waiting} items of this run are still being copied to the shelf. Wait for them, or stop the copying.`,
    )
}

/** The verified items on a case's shelf. */
export function verifiedItems(caseId: number): ShelfRow[] {
  return useLantern()
    .database.select()
    .from(shelfItems)
    .where(and(eq(shelfItems.caseId, caseId), eq(shelfItems.state, 'verified')))
    .orderBy(asc(shelfItems.path))
    .all()
}

/** The items on the shelf of a case or in its queue, and the formats in which its records can be saved. */
export function shelfList(caseId: number): ShelfList {
  const items = useLantern()
    .database.select({
      id: shelfItems.id,
      name: shelfItems.name,
      type: shelfItems.type,
      path: shelfItems.path,
      bytes: shelfItems.bytes,
      state: shelfItems.state,
      says: shelfItems.says,
      wanted: shelfItems.wanted,
      sha256: shelfItems.sha256,
      link: shelfItems.link,
    })
    .from(shelfItems)
    .where(eq(shelfItems.caseId, caseId))
    .orderBy(asc(shelfItems.id))
    .all()
  const types = new Set(items.flatMap(({ type, state }) => (state === 'verified' ? [type] : [])))
  const exports = RECORD_KINDS.filter(({ kind, type }) => kind !== 'row' && types.has(type)).flatMap(({ kind, type }) =>
    formatsFor(kind).map((format) => ({ type, kind, format: format.id, title: format.title })),
  )
  return { items, exports }
}

/** The records among the verified items of a shelf. */
export function recordsOnShelf(caseId: number): AppRecord[] {
  return verifiedItems(caseId).flatMap((row) => {
    const { record } = readStoredFind(row.body)
    return record ? [record] : []
  })
}
