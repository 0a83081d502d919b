import { mkdir, readdir } from 'node:fs/promises'
import { join } from 'node:path'
import { eq } from 'drizzle-orm'
import { settings } from '../db/tables'

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
  const row = useLantern().database.select().from(settings).where(eq(settings.key, KEY)).get()
  return row ? (JSON.parse(row.value) as string[]) : []
}

export function nameFolders(folders: readonly string[]): void {
  const value = JSON.stringify(folders)
  useLantern()
    .database.insert(settings)
    .values({ key: KEY, value })
    .onConflictDoUpdate({ target: settings.key, set: { value } })
    .run()
}

/** The path for a backup that is fetched from an account or a computer for this case. */
export async function fetchedFolder(caseCode: string): Promise<string> {
  const folder = join(dataFolder(), 'fetched', caseCode.toLowerCase().replace(/[^a-z0-9-]/g, '-'))
  await mkdir(folder, { recursive: true, mode: 0o700 })
  return folder
}
