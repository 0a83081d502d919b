import { lstat, mkdir, mkdtemp, readFile, rmdir, stat, symlink, writeFile } from 'node:fs/promises'
import { basename, dirname, join } from 'node:path'
import { ShelfPlaceWish } from '../../core/bench/shelf-place'
import { nameable } from '../../disk/nameable'
import type { Database } from '../db/open'
import { keepSetting, readSetting } from '../db/setting'
import { shopId } from '../db/shop-id'
import { invalid, refused } from '../failure'
import { caseFolder } from '../links/case-folders'

/**
 * Where shelves of new cases are made: a folder that the owner named, known again by the shop's mark in it, or the data folder. A
 * case's shelf stays where it was begun: the data folder holds it, or a link to it.
 */
const KEY = 'shelf-place'
const MARK_FILE = 'russet-lantern-shelf.txt'

export function shelfPlace(database: Database): ShelfPlaceWish {
  const text = readSetting(database, KEY)
  return text === null ? { folder: null, maxGigabytes: null } : ShelfPlaceWish.parse(JSON.parse(text))
}

/** Stores where shelves of new cases are made; throws a Failure where that folder cannot be used. */
export async function setShelfPlace(database: Database, { folder, maxGigabytes }: ShelfPlaceWish): Promise<void> {
  const place = folder === null ? null : await marked(folder, shopId(database))
  keepSetting(database, KEY, JSON.stringify({ folder: place, maxGigabytes } satisfies ShelfPlaceWish))
}

/** The folder, with the shop's mark in it. An empty mount point has none, and another shop's folder has another. */
async function marked(folder: string, mark: string): Promise<string> {
  const named = nameable(folder, 'folder', dataFolder())
  if ('fault' in named)
    throw invalid([{ path: 'folder', message: named.fault.replace('; put images into the media folder', '') }])
  const found = await markIn(named.path)
  if (found === mark) return named.path
  if (found !== null) throw invalid([{ path: 'folder', message: 'is the shelf of another shop already' }])
  const text = `${mark}\nShelves of cases are in this folder. Do not remove this file.\n`
  try {
    await writeFile(join(named.path, MARK_FILE), text, { flag: 'wx', mode: 0o600 })
  } catch {
    throw invalid([{ path: 'folder', message: 'cannot be written by the server' }])
  }
  return named.path
}

const markIn = async (folder: string): Promise<string | null> =>
  (await readFile(join(folder, MARK_FILE), 'utf8').catch(() => null))?.split('\n')[0]?.trim() ?? null

/** The folder below which shelves of new cases are made, or null while its disk is not connected. */
export async function shelfRoot(database: Database): Promise<string | null> {
  const { folder } = shelfPlace(database)
  if (folder === null) return dataFolder()
  return (await markIn(folder)) === shopId(database) ? folder : null
}

const NOT_CONNECTED = 'Its disk is not connected, or somebody removed the folder. Connect it, then try again.'

/** The same; throws a Failure while its disk is not connected. */
export async function requireShelfRoot(): Promise<string> {
  const { database } = useLantern()
  const root = await shelfRoot(database)
  if (root === null)
    throw refused(`The folder for shelves, ${shelfPlace(database).folder}, cannot be reached. ${NOT_CONNECTED}`)
  return root
}

/** Whether a case has a shelf; throws a Failure while the disk that it is on is not connected. */
export async function requireShelf(code: string): Promise<boolean> {
  const folder = caseFolder('shelf', code)
  const there = await lstat(folder).catch(() => null)
  if (there?.isSymbolicLink() && !(await stat(folder).catch(() => null))?.isDirectory())
    throw refused(`The shelf of ${code} cannot be reached. ${NOT_CONNECTED}`)
  return there !== null
}

/** The folder of a case's shelf, created where it is missing; throws a Failure while its disk is not connected. */
export async function shelfFolder(code: string): Promise<string> {
  const folder = caseFolder('shelf', code)
  if (await requireShelf(code)) return folder
  const root = await requireShelfRoot()
  if (root === dataFolder()) {
    await mkdir(folder, { recursive: true, mode: 0o700 })
    return folder
  }
  await mkdir(dirname(folder), { recursive: true, mode: 0o700 })
  const target = await newFolder(join(root, basename(folder)))
  try {
    await symlink(target, folder)
  } catch (error) {
    await rmdir(target)
    // Two requests were the first at once; the other one's link is as good.
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error
  }
  return folder
}

/** A folder that nobody had: a shop that was restored elsewhere may use the same disk, with the same codes. */
async function newFolder(path: string): Promise<string> {
  try {
    await mkdir(path, { mode: 0o700 })
    return path
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error
    return mkdtemp(`${path}-`)
  }
}
