import {
  accessSync,
  chmodSync,
  closeSync,
  constants,
  existsSync,
  mkdirSync,
  openSync,
  readdirSync,
  readSync,
  statfsSync,
  statSync,
} from 'node:fs'
import { dirname, join } from 'node:path'
import Sqlite from 'better-sqlite3'
import { DATABASE } from '../../disk/database-file'
import { SHOP_KEY } from '../../disk/shop-key'

export { DATABASE }
/** The secret with which earlier versions sealed sessions. */
const SECRET = 'session-secret'
const LOCK = 'server.lock'
/** Files that only a folder has in which a shop was opened before. */
const SIGNS_OF_A_SHOP = [SECRET, 'shelf', 'fetched', `${DATABASE}-wal`, SHOP_KEY]
/** Free bytes below which the server does not start: the database could not be written. */
const MIN_ROOM_BYTES = 8 << 20
const MAGIC = 'SQLite format 3\0'

/** Why a data folder cannot be used, in one line for the person who starts the server; nothing was written. */
export class DataFault extends Error {
  constructor(message: string) {
    super(message)
    this.name = 'DataFault'
  }
}

/**
 * Checks a data folder before anything is opened in it. It may be missing or empty, which is a new shop, or hold a shop
 * with a readable database. Anything else is a DataFault, and is never taken for a new shop.
 */
export function inspectDataFolder(folder: string): void {
  if (!existsSync(folder)) return requireWritable(nearestThere(folder), folder)
  if (!statSync(folder).isDirectory())
    throw new DataFault(`LANTERN_DATA names ${folder}, which is not a folder. Name a folder.`)
  requireWritable(folder, folder)
  const file = join(folder, DATABASE)
  if (!existsSync(file)) {
    const sign = SIGNS_OF_A_SHOP.find((name) => holdsSomething(join(folder, name)))
    if (sign)
      throw new DataFault(
        `The database is missing from ${folder}, though ${sign} is there: put ${DATABASE} back from a backup, or name another folder.`,
      )
    return
  }
  requireDatabase(file)
}

/** True for a folder with something in it, and for a file that is not empty. */
const holdsSomething = (path: string) =>
  existsSync(path) && (statSync(path).isDirectory() ? readdirSync(path).length > 0 : statSync(path).size > 0)

function nearestThere(path: string): string {
  let there = path
  while (!existsSync(there) && dirname(there) !== there) there = dirname(there)
  return there
}

function requireWritable(there: string, folder: string): void {
  try {
    accessSync(there, constants.R_OK | constants.W_OK | constants.X_OK)
  } catch (error) {
    const isReadOnly = (error as NodeJS.ErrnoException).code === 'EROFS'
    throw new DataFault(
      isReadOnly
        ? `The data folder ${folder} is on a disk that is mounted read only. Mount it for writing, or name another folder.`
        : `The server may not write to the data folder ${folder}. Give its user that right, or name another folder.`,
    )
  }
  const { bavail, bsize } = statfsSync(there)
  if (bavail * bsize < MIN_ROOM_BYTES)
    throw new DataFault(`The disk of the data folder ${folder} is full. Make room on it, then start again.`)
}

function requireDatabase(file: string): void {
  const damaged = (why: string) =>
    new DataFault(`The database ${file} ${why}: put it back from a backup. It was left as it is.`)
  const { size } = statSync(file)
  if (!statSync(file).isFile()) throw damaged('is not a file')
  if (size === 0) throw damaged('is empty')
  const head = Buffer.alloc(100)
  const descriptor = openSync(file, 'r')
  try {
    readSync(descriptor, head, 0, 100, 0)
  } finally {
    closeSync(descriptor)
  }
  if (size < 512 || head.toString('latin1', 0, 16) !== MAGIC) throw damaged('is damaged')
}

/**
 * Databases up to this size are checked page by page at each start; larger ones only as far as opening does, in bytes.
 */
const MAX_CHECKED_BYTES = 256 << 20

/**
 * The migration to the chain was once dated ahead of those that followed it, which hid them from databases that had it: the
 * wrong date, and the right one.
 */
export const MISDATED = { wrong: 1795898400000, right: 1795820000000 } as const

/**
 * Checks an open database before anything is written to it: sound, a shop's, and not of a newer version. `latest`: when
 * the newest migration of this version was made, ms.
 */
export function requireKnownShop(client: Sqlite.Database, file: string, latest: number): void {
  const damaged = (why: string) =>
    new DataFault(`The database ${file} is damaged (${why}): put it back from a backup. It was left as it is.`)
  try {
    if (statSync(file).size <= MAX_CHECKED_BYTES) {
      const said = client.pragma('quick_check(1)', { simple: true })
      if (said !== 'ok') throw damaged(String(said).replaceAll('\n', ' ').slice(0, 120))
    }
    const tables = client.prepare("select name from sqlite_master where type = 'table'").pluck().all() as string[]
    if (tables.length === 0) return
    if (!tables.includes('__drizzle_migrations') || !tables.includes('cases'))
      throw new DataFault(`The database ${file} is not of this program. Name another folder. It was left as it is.`)
    const newest = client
      .prepare('select max(created_at) from __drizzle_migrations where created_at != ?')
      .pluck()
      .get(MISDATED.wrong) as number | null
    if ((newest ?? 0) > latest)
      throw new DataFault(
        `The database ${file} was written by a newer version. Start that version. It was left as it is.`,
      )
  } catch (error) {
    if (error instanceof DataFault) throw error
    const { code = 'unknown fault' } = error as NodeJS.ErrnoException
    if (code.startsWith('SQLITE_BUSY')) throw new DataFault(`The database ${file} is in use by another program.`)
    throw damaged(code)
  }
}

/** Creates the folder where it is missing, and closes it to other users of this machine. */
export function closeToOthers(folder: string): void {
  mkdirSync(folder, { recursive: true, mode: 0o700 })
  if ((statSync(folder).mode & 0o077) !== 0) chmodSync(folder, 0o700)
  for (const name of [DATABASE, `${DATABASE}-wal`, `${DATABASE}-shm`, SHOP_KEY, SECRET, LOCK]) {
    const path = join(folder, name)
    if (existsSync(path) && (statSync(path).mode & 0o077) !== 0) chmodSync(path, 0o600)
  }
}

/**
 * Keeps a second server out of a folder for as long as this process lives: the system releases the lock however the
 * process ends. A DataFault where another server has it.
 */
export function lockDataFolder(folder: string): { release(): void } {
  const lock = new Sqlite(join(folder, LOCK), { timeout: 0 })
  try {
    lock.pragma('journal_mode = MEMORY')
    lock.exec('begin exclusive')
  } catch (error) {
    lock.close()
    if (!(error as NodeJS.ErrnoException).code?.startsWith('SQLITE_BUSY')) throw error
    throw new DataFault(`Another server already uses the data folder ${folder}. Stop it first, or name another folder.`)
  }
  return { release: () => lock.close() }
}
