import type { StoredFind } from '../../core/bench/filter'

/** Parses the stored body of a found item; an item of an earlier version has no evidence. */
export function readStoredFind(body: string): StoredFind {
  const stored = JSON.parse(body) as StoredFind
  return { ...stored, evidence: stored.evidence ?? null }
}

/** A found item as it is stored. */
export const writeStoredFind = (find: StoredFind): string => JSON.stringify(find)
