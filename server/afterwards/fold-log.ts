import type { Database } from '../db/open'

let isPending = false

/**
 * Writes the log of the database back and empties it, so that no page from before a wipe is left in it. While somebody else
 * reads, the log cannot be emptied: it is tried again with every tick of the clock.
 */
export function foldLog(database: Database): void {
  isPending = !isEmptied(database)
}

/** Tries again where the log could not be emptied. */
export function foldPending(database: Database): void {
  if (isPending) isPending = !isEmptied(database)
}

function isEmptied(database: Database): boolean {
  const [{ busy }] = database.$client.pragma('wal_checkpoint(TRUNCATE)') as [{ busy: number }]
  return busy === 0
}
