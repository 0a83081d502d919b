import { randomUUID } from 'node:crypto'
import { lstat, mkdir, readFile, stat, symlink, writeFile } from 'node:fs/promises'
import { basename, dirname, join } from 'node:path'
import { z } from 'zod'
import type { ShelfPlaceWish } from '../../core/bench/shelf-place'
import { nameable } from '../../disk/nameable'
import type { Database } from '../db/open'
import { keepSetting, readSetting } from '../db/setting'
import { invalid, refused } from '../failure'
import { caseFolder } from '../links/case-folders'

/**
 * Where shelves of new cases are made: a folder that the owner named, known again by the mark that lies in it, or the data folder.
 * A case's shelf stays where it was begun: the data folder holds it, or a link to it.
 */
const Place = z.object({
  folder: z.string().nullable(),
  /** what the file in that folder says; an empty mount point has none */
  mark: z.string(),
  maxGigabytes: z.number().nullable(),
})
type Place = z.infer<typeof Place>

const KEY = 'shelf-place'
const MARK_FILE = 'russet-lantern-shelf.txt'
const IN_DATA_FOLDER: Place = { folder: null, mark: '', maxGigabytes: null }

export function shelfPlace(database: Database): Place {
  const text = readSetting(database, KEY)
  return text === null ? IN_DATA_FOLDER : Place.parse(JSON.parse(text))
}

/** Stores where shelves of new cases are made; throws a Failure where that folder cannot be used. */
export async function setShelfPlace(database: Database, { folder, maxGigabytes }: ShelfPlaceWish): Promise<void> {
  const before = shelfPlace(database)
  const place = folder === null ? { folder, mark: '' } : await markedPlace(folder, before)
  keepSetting(database, KEY, JSON.stringify({ ...place, maxGigabytes } satisfies Place))
}

async function markedPlace(folder: string, before: Place): Promise<Pick<Place, 'folder' | 'mark'>> {
  const named = nameable(folder, 'folder', dataFolder())
  if ('fault' in named)
    throw invalid([{ path: 'folder', message: named.fault.replace('; put images into the media folder', '') }])
  const found = await markIn(named.path)
  if (found !== null && found === before.mark) return { folder: named.path, mark: found }
  if (found !== null) throw invalid([{ path: 'folder', message: 'is the shelf of another shop already' }])
  const mark = randomUUID()
  try {
    await writeFile(
      join(named.path, MARK_FILE),
      `${mark}\nShelves of cases are in this folder. Do not remove this file.\n`,
      {
        flag: 'wx',
        mode: 0o600,
      },
    )
  } catch {
    throw invalid([{ path: 'folder', message: 'cannot be written by the server' }])
  }
  return { folder: named.path, mark }
}

const markIn = async (folder: string): Promise<string | null> =>
  (await readFile(join(folder, MARK_FILE), 'utf8').catch(() => null))?.split('\n')[0]?.trim() ?? null

/** The folder below which shelves of new cases are made, or null while its disk is not connected. */
export async function shelfRoot(database: Database): Promise<string | null> {
  const { folder, mark } = shelfPlace(database)
  if (folder === null) return dataFolder()
  return (await markIn(folder)) === mark ? folder : null
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
  const target = join(root, basename(folder))
  await mkdir(target, { recursive: true, mode: 0o700 })
  await mkdir(dirname(folder), { recursive: true, mode: 0o700 })
  // Two requests may be the first at once; either link is right.
  await symlink(target, folder).catch((error: NodeJS.ErrnoException) => {
    if (error.code !== 'EEXIST') throw error
  })
  return folder
}
