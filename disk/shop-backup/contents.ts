import { lstat, readdir, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { SHOP_KEY } from '../shop-key'
import { WIPE_LEDGER } from '../wipe-ledger'

/** What of a data folder is in every backup beside its database, and what is by choice: files that can be large. */
export const ALWAYS = [SHOP_KEY, WIPE_LEDGER, 'tls', 'attachments'] as const
export const BY_CHOICE = ['shelf', 'by-hand', 'fetched', 'media', 'backups', 'stand-ins'] as const

/** Code of the error where the disk of a shelf is not connected. */
export const SHELF_AWAY = 'SHELF_AWAY'

export interface FoundFile {
  /** with slashes, below the data folder */
  readonly name: string
  readonly path: string
  readonly bytes: number
}

/**
 * The regular files of a backup, below the data folder. Of links, only those of cases are followed whose shelf is on another disk;
 * an Error where that is not connected.
 */
export async function* filesOf(folder: string, hasFiles: boolean): AsyncGenerator<FoundFile> {
  for (const name of hasFiles ? [...ALWAYS, ...BY_CHOICE] : ALWAYS) yield* below(folder, name)
}

async function* below(folder: string, name: string): AsyncGenerator<FoundFile> {
  const path = join(folder, name)
  const isShelf = /^shelf\/[^/]+$/.test(name)
  const found = await (isShelf ? stat : lstat)(path).catch((error: NodeJS.ErrnoException) => {
    if (isShelf)
      throw Object.assign(new Error(`The shelf ${name} cannot be reached.`), { code: SHELF_AWAY, cause: error })
    return null
  })
  if (found?.isFile()) yield { name, path, bytes: found.size }
  if (!found?.isDirectory()) return
  for (const entry of await readdir(path)) yield* below(folder, `${name}/${entry}`)
}
