import type Sqlite from 'better-sqlite3'
import type { ChainEntry } from '../core/history/chain'

const COLUMNS =
  'id, case_id as caseId, version, at, by, kind, is_earlier as isEarlier, content, sealed, digest from history order by id'

/** The entries of a shop's history, first to last, as they are in its database; none where it has no chain yet. */
export function* chainEntries(client: Sqlite.Database): IterableIterator<ChainEntry> {
  const hasChain = client.prepare("select 1 from pragma_table_info('history') where name = 'digest'").get()
  if (!hasChain) return
  for (const row of client.prepare(`select ${COLUMNS}`).iterate()) {
    const entry = row as Omit<ChainEntry, 'isEarlier'> & { readonly isEarlier: number }
    yield { ...entry, isEarlier: entry.isEarlier === 1 }
  }
}

/** The number of entries that were ever written, which SQLite counts apart from the rows (AUTOINCREMENT). */
export function entriesWritten(client: Sqlite.Database): number {
  return (client.prepare("select seq from sqlite_sequence where name = 'history'").pluck().get() as number) ?? 0
}

/** The code of a case by its row, for people to read. */
export function codeOfCase(client: Sqlite.Database, caseId: number): string | null {
  return (client.prepare('select code from cases where id = ?').pluck().get(caseId) as string | undefined) ?? null
}
