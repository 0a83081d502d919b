import { createReadStream, createWriteStream } from 'node:fs'
import { mkdir, open, readdir, rename, rm, stat, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { ReadableStream } from 'node:stream/web'
import { Encrypter } from 'age-encryption'
import Sqlite from 'better-sqlite3'
import { pack } from 'tar-stream'
import { BACKUP_FILES, SHOP_BACKUP_FORMAT, type ShopBackup } from '../../core/safekeeping/backup'
import { DATABASE } from '../database-file'
import { filesOf, type FoundFile } from './contents'
import type { BackupKey } from './seal'

export interface Packing {
  readonly dataFolder: string
  /** where backups go, each in a folder of its own */
  readonly place: string
  readonly key: BackupKey
  readonly shop: string
  readonly shopId: string | null
  readonly hasFiles: boolean
  /** ms */
  readonly now: number
}

export interface Packed {
  readonly name: string
  /** on disk, encrypted */
  readonly bytes: number
}

/** The copy of the database in clear, with the id of the process that makes it. */
const COPY = `${DATABASE}.backup-`

/** Removes copies of the database that a process which was killed has left in a data folder. */
export async function clearLeftCopies(dataFolder: string): Promise<void> {
  for (const name of await readdir(dataFolder)) {
    const pid = name.startsWith(COPY) ? Number.parseInt(name.slice(COPY.length), 10) : null
    if (pid !== null && !isRunning(pid)) await rm(join(dataFolder, name), { force: true })
  }
}

function isRunning(pid: number): boolean {
  try {
    process.kill(pid, 0)
    return true
  } catch (error) {
    return (error as NodeJS.ErrnoException).code === 'EPERM'
  }
}

const UNFINISHED = '.unfinished'
/** The last entry of every backup: an archive without it was cut. */
export const LAST_ENTRY = 'complete'

/**
 * Makes a backup of a shop that may be open meanwhile: a copy of the database by the driver's online backup, then the key, the list
 * of wipes, pictures and signatures, and by choice all files, as a tar archive encrypted to the owner's key. It has its name only when
 * it is whole and on disk.
 */
export async function packShop(wish: Packing): Promise<Packed> {
  const at = new Date(wish.now).toISOString()
  const name = `shop-${at.slice(0, 19).replaceAll(':', '')}Z`
  const folder = join(wish.place, name + UNFINISHED)
  const copy = join(wish.dataFolder, `${COPY}${process.pid}`)
  await rm(folder, { recursive: true, force: true })
  await mkdir(folder, { recursive: true, mode: 0o700 })
  try {
    await copyDatabase(join(wish.dataFolder, DATABASE), copy)
    const counted = await writeContent(wish, copy, join(folder, BACKUP_FILES.content))
    const manifest: ShopBackup = {
      format: SHOP_BACKUP_FORMAT,
      version: 1,
      at,
      shop: wish.shop,
      shopId: wish.shopId,
      hasFiles: wish.hasFiles,
      ...counted,
    }
    await writeSynced(join(folder, BACKUP_FILES.key), Buffer.from(wish.key.sealed, 'base64'))
    await writeSynced(join(folder, BACKUP_FILES.manifest), `${JSON.stringify(manifest, null, 2)}\n`)
    await rename(folder, join(wish.place, name))
    await syncFolder(wish.place)
    const { size } = await stat(join(wish.place, name, BACKUP_FILES.content))
    return { name, bytes: size }
  } catch (error) {
    await rm(folder, { recursive: true, force: true })
    throw error
  } finally {
    // The copy holds what the database holds, in clear: it goes at once.
    await removeDatabase(copy)
  }
}

async function removeDatabase(path: string): Promise<void> {
  for (const end of ['', '-wal', '-shm', '-journal']) await rm(path + end, { force: true })
}

/** All pages in one step: the copy is of one moment, and whoever writes meanwhile does not wait. */
const ALL_PAGES = 0x7fffffff

async function copyDatabase(from: string, to: string): Promise<void> {
  await removeDatabase(to)
  // Created for its owner alone before anything is in it.
  await writeFile(to, '', { mode: 0o600 })
  const source = new Sqlite(from, { readonly: true, fileMustExist: true })
  try {
    await source.backup(to, { progress: () => ALL_PAGES })
  } finally {
    source.close()
  }
  const made = new Sqlite(to)
  try {
    const said = made.pragma('quick_check(1)', { simple: true })
    if (said !== 'ok') throw new Error(`The copy of the database is damaged: ${String(said).slice(0, 120)}`)
    // One file, without a log beside it.
    made.pragma('journal_mode = delete')
  } finally {
    made.close()
  }
}

async function writeContent(wish: Packing, database: string, path: string): Promise<{ files: number; bytes: number }> {
  const archive = pack()
  const counted = { files: 0, bytes: 0 }
  const feed = async () => {
    const { size } = await stat(database)
    await addFile(archive, { name: DATABASE, path: database, bytes: size }, wish.now)
    counted.bytes += size
    for await (const file of filesOf(wish.dataFolder, wish.hasFiles)) {
      // A file that was wiped since it was listed is not in the backup, and need not be.
      if (!(await addFile(archive, file, wish.now))) continue
      counted.files++
      counted.bytes += file.bytes
    }
    archive.entry({ name: LAST_ENTRY, mtime: new Date(wish.now) }, JSON.stringify(counted))
    archive.finalize()
  }
  const encrypter = new Encrypter()
  encrypter.addRecipient(wish.key.recipient)
  const sealed = await encrypter.encrypt(Readable.toWeb(Readable.from(archive)) as unknown as globalThis.ReadableStream)
  const feeding = feed().catch((error: Error) => archive.destroy(error))
  await pipeline(
    Readable.fromWeb(sealed as unknown as ReadableStream),
    createWriteStream(path, { mode: 0o600, flush: true }),
  )
  await feeding
  return counted
}

/** Adds a file as it is now; false where it is gone. Of one that grows only what was announced is read. */
async function addFile(archive: ReturnType<typeof pack>, file: FoundFile, now: number): Promise<boolean> {
  if (!(await stat(file.path).catch(() => null))) return false
  const header = { name: file.name, size: file.bytes, mtime: new Date(now), mode: 0o600 }
  if (file.bytes === 0) {
    archive.entry(header, '')
    return true
  }
  const entry = archive.entry(header)
  await pipeline(createReadStream(file.path, { end: file.bytes - 1 }), entry)
  return true
}

async function writeSynced(path: string, content: string | Uint8Array): Promise<void> {
  await writeFile(path, content, { mode: 0o600, flush: true })
}

async function syncFolder(path: string): Promise<void> {
  const folder = await open(path, 'r')
  await folder.sync().catch(() => undefined)
  await folder.close()
}
