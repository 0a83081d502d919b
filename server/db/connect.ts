import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { drizzle, type BetterSQLite3Database } from 'drizzle-orm/better-sqlite3'
import { DATABASE } from './data-folder'
import * as tables from './tables'

export type Database = BetterSQLite3Database<typeof tables> & { $client: Sqlite.Database }

/** Opens the shop's database as it is, for a job beside the server. */
export function connect(dataFolder: string): Database {
  const client = new Sqlite(join(dataFolder, DATABASE))
  client.pragma('journal_mode = WAL')
  client.pragma('synchronous = FULL')
  client.pragma('foreign_keys = ON')
  client.pragma('busy_timeout = 5000')
  // What is removed or replaced is overwritten, and nothing of it is put into files elsewhere.
  client.pragma('secure_delete = ON')
  client.pragma('temp_store = MEMORY')
  // Long lists are counted and filled without reading each page from disk again (KiB).
  client.pragma('cache_size = -65536')
  return drizzle(client, { schema: tables })
}
