import { mkdir, readdir } from 'node:fs/promises'
import { join } from 'node:path'
import { keepSetting, readSetting } from '../db/setting'
import { caseFolder } from './case-folders'

const KEY = 'backup-folders'

/**
 * Where backups are searched for: the shop's own folder, those that the owner has named, and what was fetched for
 * cases.
 */
export async function backupFolders(): Promise<string[]> {
  const own = join(dataFolder(), 'backups')
  const fetched = join(dataFolder(), 'fetched')
  await mkdir(own, { recursive: true, mode: 0o700 })
  await mkdir(fetched, { recursive: true, mode: 0o700 })
  const cases = await readdir(fetched, { withFileTypes: true })
  return [own, ...namedFolders(), ...cases.filter((one) => one.isDirectory()).map((one) => join(fetched, one.name))]
}

/** The folders that the owner has named. */
export function namedFolders(): string[] {
  return JSON.parse(readSetting(useLantern().database, KEY) ?? '[]') as string[]
}

export function nameFolders(folders: readonly string[]): void {
  keepSetting(useLantern().database, KEY, JSON.stringify(folders))
}

/** The path for a backup that is fetched from an account or a computer for this case. */
export async function fetchedFolder(caseCode: string): Promise<string> {
  const folder = caseFolder('fetched', caseCode)
  await mkdir(folder, { recursive: true, mode: 0o700 })
  return folder
}
