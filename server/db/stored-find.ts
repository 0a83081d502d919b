import type { StoredFind } from '../../core/bench/filter'

/** What was written of a found item, read again; an item of an earlier version has no evidence. */
export function readStoredFind(body: string): StoredFind {
  const stored = JSON.parse(body) as StoredFind
  return { ...stored, evidence: stored.evidence ?? null }
}

/** A found item as it is written. */
export const writeStoredFind = (find: StoredFind): string => JSON.stringify(find)
