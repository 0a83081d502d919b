import { existsSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { migrate } from 'drizzle-orm/better-sqlite3/migrator'
import { makeShopKeys, readShopKeys } from '../../disk/shop-key'
import { connect, type Database } from './connect'
import { closeToOthers, DATABASE, inspectDataFolder, MISDATED, requireKnownShop } from './data-folder'
import { adoptEarlierHistory } from './history/adopt'
import { withShopKeys } from './history/keys'
import { keepSetting, readSetting } from './setting'
import { requireKey } from './history/require-key'

export { connect, type Database } from './connect'

/**
 * Opens the shop's database in its data folder, creates it where it is missing, and migrates it to this version.
 * Acknowledged writes are on disk: write-ahead log, every commit fully synced. Throws a DataFault for a folder or
 * database that cannot be used, and leaves it unchanged.
 */
export function openDatabase(dataFolder: string, migrationsFolder: string): Database {
  inspectShop(dataFolder, migrationsFolder)
  return openInspected(dataFolder, migrationsFolder)
}

/** Checks a shop without writing to it; throws a DataFault where it cannot be opened. */
export function inspectShop(dataFolder: string, migrationsFolder: string): void {
  inspectDataFolder(dataFolder)
  const file = join(dataFolder, DATABASE)
  if (!existsSync(file)) return
  const missing = ['-wal', '-shm'].map((end) => file + end).filter((path) => !existsSync(path))
  const client = new Sqlite(file, { readonly: true })
  try {
    requireKnownShop(client, file, latestOf(migrationsFolder))
    requireKey(client, dataFolder)
  } catch (error) {
    client.close()
    for (const path of missing) rmSync(path, { force: true })
    throw error
  }
  client.close()
}

/** Opens a shop that has passed the check. */
export function openInspected(dataFolder: string, migrationsFolder: string): Database {
  closeToOthers(dataFolder)
  const isNew = !existsSync(join(dataFolder, DATABASE))
  const connected = connect(dataFolder)
  const database = withShopKeys(connected, readShopKeys(dataFolder) ?? makeShopKeys(dataFolder))
  redate(database)
  migrate(database, { migrationsFolder })
  adoptEarlierHistory(database)
  overwriteEarlier(database, isNew)
  closeToOthers(dataFolder)
  return database
}

/** Gives a migration that was dated wrongly its right date, so that those behind it are found. */
function redate({ $client: client }: Database): void {
  if (!client.prepare("select 1 from sqlite_master where name = '__drizzle_migrations'").get()) return
  client
    .prepare('update __drizzle_migrations set created_at = ? where created_at = ?')
    .run(MISDATED.right, MISDATED.wrong)
}

/** The setting that says that nothing removed is left in free pages. */
const OVERWRITTEN = 'removed-is-overwritten'

/**
 * Databases from before removed rows were overwritten still have them in free pages: they are written anew once. Where that
 * fails, for want of room, it is tried again at the next start.
 */
function overwriteEarlier(database: Database, isNew: boolean): void {
  if (readSetting(database, OVERWRITTEN) !== null) return
  if (!isNew)
    try {
      database.$client.exec('vacuum')
    } catch (error) {
      console.error(`The database could not be written anew: ${(error as { code?: string }).code ?? 'unknown fault'}`)
      return
    }
  keepSetting(database, OVERWRITTEN, 'yes')
}

/** When the newest of some migrations was made, ms. */
function latestOf(migrationsFolder: string): number {
  const { entries } = JSON.parse(readFileSync(join(migrationsFolder, 'meta/_journal.json'), 'utf8')) as {
    entries: { when: number }[]
  }
  return Math.max(...entries.map(({ when }) => when))
}

/** Writes the log back into the database and closes it: a copy of the file is then the whole shop. */
export function closeDatabase(database: Database): void {
  if (!database.$client.open) return
  try {
    database.$client.pragma('wal_checkpoint(TRUNCATE)')
  } finally {
    database.$client.close()
  }
}
