import { lstat, readdir } from 'node:fs/promises'
import { join } from 'node:path'
import { SHOP_KEY } from '../shop-key'
import { WIPE_LEDGER } from '../wipe-ledger'

/** What of a data folder is in every backup beside its database, and what is by choice: files that can be large. */
export const ALWAYS = [SHOP_KEY, WIPE_LEDGER, 'tls', 'attachments'] as const
export const BY_CHOICE = ['shelf', 'by-hand', 'fetched', 'media', 'backups', 'stand-ins'] as const

export interface FoundFile {
  /** with slashes, below the data folder */
  readonly name: string
  readonly path: string
  readonly bytes: number
}

/** The regular files of a backup, below the data folder; links are never followed. */
export async function* filesOf(folder: string, hasFiles: boolean): AsyncGenerator<FoundFile> {
  for (const name of hasFiles ? [...ALWAYS, ...BY_CHOICE] : ALWAYS) yield* below(folder, name)
}

async function* below(folder: string, name: string): AsyncGenerator<FoundFile> {
  const path = join(folder, name)
  const found = await lstat(path).catch(() => null)
  if (found?.isFile()) yield { name, path, bytes: found.size }
  if (!found?.isDirectory()) return
  for (const entry of await readdir(path)) yield* below(folder, `${name}/${entry}`)
}
