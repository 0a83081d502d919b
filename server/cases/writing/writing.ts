import type { Clash } from '../../../core/cases/facts/merge'
import type { Database } from '../../db/open'
import type { Handle, StoredCase } from '../rows'

export interface Written {
  readonly stored: StoredCase
  readonly clashes: readonly Clash[]
}

export const written = (stored: StoredCase, clashes: readonly Clash[] = []): Written => ({ stored, clashes })
export const iso = (now: number) => new Date(now).toISOString()

/** Every write is one transaction that holds the write lock from its first read on. */
export function writing<T>(database: Database, work: (handle: Handle) => T): T {
  return database.transaction((transaction) => work(transaction), { behavior: 'immediate' })
}
