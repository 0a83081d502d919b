import { accessSync, constants } from 'node:fs'
import { z } from 'zod'
import { Health, IntegrityCheck, type BackupWish } from '../../core/safekeeping/backup'
import { nameable } from '../../disk/nameable'
import type { BackupKey } from '../../disk/shop-backup/seal'
import type { Database } from '../db/open'
import { keepSetting, readSetting } from '../db/setting'
import { invalid } from '../failure'
import { ask } from './ask'

/** Where backups go, and the key that they are encrypted with; its secret half is sealed with the owner's passphrase. */
const BackupSettings = z.object({
  folder: z.string(),
  hasFiles: z.boolean(),
  recipient: z.string(),
  sealed: z.string(),
})
export type BackupSettings = z.infer<typeof BackupSettings>

/** How backups went so far. Times are of the clock that the shop goes by. */
const BackupState = z.object({
  /** ms: when one was last begun */
  tried: z.number().nullable().default(null),
  last: Health.shape.backup.shape.last.default(null),
  failed: Health.shape.backup.shape.failed.default(null),
})
export type BackupState = z.infer<typeof BackupState>

const [SETTINGS_KEY, STATE_KEY, CHECK_KEY] = ['backup', 'backup-state', 'integrity-check']

function stored<Schema extends z.ZodType>(database: Database, key: string, schema: Schema): z.output<Schema> | null {
  const text = readSetting(database, key)
  return text === null ? null : schema.parse(JSON.parse(text))
}

export const backupSettings = (database: Database) => stored(database, SETTINGS_KEY, BackupSettings)
/** The folder that backups go to; null where none was named. */
export const backupPlace = (database: Database): string | null => backupSettings(database)?.folder ?? null
export const backupState = (database: Database): BackupState =>
  stored(database, STATE_KEY, BackupState) ?? BackupState.parse({})
export const keepBackupState = (database: Database, state: BackupState) =>
  keepSetting(database, STATE_KEY, JSON.stringify(state))
export const lastCheck = (database: Database) => stored(database, CHECK_KEY, IntegrityCheck)
export const keepCheck = (database: Database, check: IntegrityCheck) =>
  keepSetting(database, CHECK_KEY, JSON.stringify(check))

/** Stores where backups go; throws a Failure where they cannot go there, or where there is no passphrase yet. */
export async function setBackup(database: Database, wish: BackupWish): Promise<void> {
  const named = nameable(wish.folder, 'folder', dataFolder())
  if ('fault' in named)
    throw invalid([{ path: 'folder', message: named.fault.replace('; put images into the media folder', '') }])
  try {
    accessSync(named.path, constants.W_OK | constants.X_OK)
  } catch {
    throw invalid([{ path: 'folder', message: 'cannot be written by the server' }])
  }
  const before = backupSettings(database)
  if (wish.passphrase === null && before === null)
    throw invalid([{ path: 'passphrase', message: 'is needed: backups are always encrypted' }])
  // A second of work, which would stop the server's own thread.
  const key = wish.passphrase === null ? before! : await ask<BackupKey>({ order: 'key', passphrase: wish.passphrase })
  const { recipient, sealed } = key
  keepSetting(
    database,
    SETTINGS_KEY,
    JSON.stringify({ folder: named.path, hasFiles: wish.hasFiles, recipient, sealed } satisfies BackupSettings),
  )
}
