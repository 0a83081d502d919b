import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { drizzle, type BetterSQLite3Database } from 'drizzle-orm/better-sqlite3'
import { migrate } from 'drizzle-orm/better-sqlite3/migrator'
import * as tables from './tables'

export type Database = BetterSQLite3Database<typeof tables> & { $client: Sqlite.Database }

/**
 * Opens the shop's database in its data folder, made where it is missing, and brings its tables up to
 * date. What is acknowledged is on the disk: write-ahead log, every commit synced in full.
 */
export function openDatabase(dataFolder: string, migrationsFolder: string): Database {
  mkdirSync(dataFolder, { recursive: true, mode: 0o700 })
  const database = connect(dataFolder)
  migrate(database, { migrationsFolder })
  return database
}

/** The shop's database as it is, for a job beside the server. */
export function connect(dataFolder: string): Database {
  const client = new Sqlite(join(dataFolder, 'lantern.sqlite'))
  client.pragma('journal_mode = WAL')
  client.pragma('synchronous = FULL')
  client.pragma('foreign_keys = ON')
  client.pragma('busy_timeout = 5000')
  // Long lists are counted and filled without going back to the disk for every page (KiB).
  client.pragma('cache_size = -65536')
  return drizzle(client, { schema: tables })
}
