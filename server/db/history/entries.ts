import { and, asc, desc, eq, gt } from 'drizzle-orm'
import { CHAIN_START, chainDigest, type ChainHead } from '../../../core/history/chain'
import type { HistoryEntry } from '../../../core/cases/telling/history'
import { history } from '../tables'
import { caseKey, makeCaseKey, shopKeysOf, type Handle } from './keys'
import { openContent, sealContent } from './seal'

/** A change as an entry of the history. */
export type Happening = Pick<HistoryEntry, 'kind' | 'fact' | 'was' | 'is'>

interface Place {
  readonly caseId: number
  readonly version: number
  readonly at: string
  readonly by: string
  readonly isEarlier?: boolean
}

/** An entry's content is sealed for its own place in the history, so that two cannot be exchanged. */
const placeOf = (id: number) => `entry ${id}`

/**
 * Writes entries at the end of the history; returns the number of the first of them. Everything about the client is in their
 * sealed content.
 */
export function appendHistory(handle: Handle, place: Place, happenings: readonly Happening[]): number {
  if (happenings.length === 0) return historyHead(handle).count + 1
  const { chain } = shopKeysOf(handle)
  const { caseId, version, at, by, isEarlier = false } = place
  const key = caseKey(handle, caseId) ?? makeCaseKey(handle, caseId)
  let head = historyHead(handle)
  const first = head.count + 1
  for (const { kind, fact, was, is } of happenings) {
    const id = head.count + 1
    const { sealed, digest: content } = sealContent(
      key,
      JSON.stringify({ fact, was: was ?? null, is: is ?? null }),
      placeOf(id),
    )
    const entry = { id, caseId, version, at, by, kind, isEarlier, content, sealed }
    const digest = chainDigest(chain, head.digest, entry)
    handle
      .insert(history)
      .values({ ...entry, digest })
      .run()
    head = { count: id, digest }
  }
  return first
}

/** The last entry of the chain. */
export function historyHead(handle: Handle): ChainHead {
  const last = handle
    .select({ count: history.id, digest: history.digest })
    .from(history)
    .orderBy(desc(history.id))
    .limit(1)
    .get()
  return last ?? { count: 0, digest: CHAIN_START }
}

/** When the last entry was written, ms; null in a new shop. */
export function latestHistoryTime(handle: Handle): number | null {
  const last = handle.select({ at: history.at }).from(history).orderBy(desc(history.id)).limit(1).get()
  return last ? Date.parse(last.at) : null
}

/** What happened to a case after a version, oldest first. Entries whose content was wiped say so. */
export function historySince(handle: Handle, caseId: number, version: number): HistoryEntry[] {
  const key = caseKey(handle, caseId)
  return handle
    .select()
    .from(history)
    .where(and(eq(history.caseId, caseId), gt(history.version, version)))
    .orderBy(asc(history.id))
    .all()
    .map((row) => opened(row, key))
}

/** One entry of a case; null where the case has none with this number. */
export function entryOf(handle: Handle, caseId: number, id: number): HistoryEntry | null {
  const row = handle
    .select()
    .from(history)
    .where(and(eq(history.id, id), eq(history.caseId, caseId)))
    .get()
  return row ? opened(row, caseKey(handle, caseId)) : null
}

function opened(row: typeof history.$inferSelect, key: Buffer | null): HistoryEntry {
  const { id, at, by, kind, isEarlier, version, sealed, content } = row
  const text = key && openContent(key, sealed, content, placeOf(id))
  const { fact, was, is } = text
    ? (JSON.parse(text) as Pick<HistoryEntry, 'fact' | 'was' | 'is'>)
    : { fact: '', was: null, is: null }
  return { id, version, at, by, kind, fact, was, is, isEarlier, isWiped: !text }
}
