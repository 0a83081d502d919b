import { statfs } from 'node:fs/promises'
import type { HandoutFolders } from '../../core/bench/shelf'
import { nameable } from '../../disk/nameable'
import { keepSetting, readSetting } from '../db/setting'
import { invalid } from '../failure'

const KEY = 'hand-out-folders'

/** The folders that the owner has named for handing over: a client's medium is mounted in one of them. */
export function handoutFolders(): string[] {
  return JSON.parse(readSetting(useLantern().database, KEY) ?? '[]') as string[]
}

/** Names the folders; throws a Failure for one that may not be named, unless it was named before and is not there now. */
export function nameHandoutFolders(folders: readonly string[]): void {
  const before = new Set(handoutFolders())
  const real = folders.map((folder, at) => {
    if (before.has(folder)) return folder
    const named = nameable(folder, 'folder', dataFolder())
    if ('fault' in named) throw invalid([{ path: `folders.${at}`, message: named.fault }])
    return named.path
  })
  keepSetting(useLantern().database, KEY, JSON.stringify([...new Set(real)]))
}

/** The named folders with the free space of each. */
export async function foldersNow(): Promise<HandoutFolders> {
  const folders = handoutFolders().map(async (path) => ({ path, free: await freeIn(path).catch(() => null) }))
  return { folders: await Promise.all(folders) }
}

/** Free bytes of the disk that a folder is on. */
export async function freeIn(folder: string): Promise<number> {
  const { bavail, bsize } = await statfs(folder)
  return bavail * bsize
}
