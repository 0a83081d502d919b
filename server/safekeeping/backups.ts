import { readdir, rm, stat } from 'node:fs/promises'
import { join } from 'node:path'
import type { IntegrityCheck, Health } from '../../core/safekeeping/backup'
import { BACKUP_FILES } from '../../core/safekeeping/backup'
import { isBackupDue, keptBackups } from '../../core/safekeeping/kept'
import { readBackup } from '../../disk/shop-backup/unpack'
import type { Packed } from '../../disk/shop-backup/pack'
import { addMissingWipes } from '../../disk/wipe-ledger'
import { shopId } from '../db/shop-id'
import { refused } from '../failure'
import { logFault } from '../log-fault'
import { readPlaybook } from '../settings'
import { ask, SafeFault, SAFE_CODES } from './ask'
import { backupSettings, backupState, keepBackupState, keepCheck } from './settings'

const busy = { backup: false, check: false }
export const isBackingUp = () => busy.backup
export const isChecking = () => busy.check

/** Makes a backup now, removes those that are past their time, and notes how it went; throws a Failure where one cannot be made. */
export async function backUp(): Promise<void> {
  const { database, clock } = useLantern()
  const settings = backupSettings(database)
  if (!settings) throw refused('Name a folder and a passphrase for the backups first.')
  if (busy.backup) throw refused('A backup is being made already.')
  busy.backup = true
  const now = clock.now()
  const at = new Date(now).toISOString()
  const begun = performance.now()
  keepBackupState(database, { ...backupState(database), tried: now })
  try {
    const { shop } = readPlaybook(database)
    const { folder: place, hasFiles, ...key } = settings
    // A folder that is not there is more likely a disk that is not connected than a new one.
    if (!(await stat(place).catch(() => null))?.isDirectory()) throw new SafeFault(SAFE_CODES.ENOENT)
    const order = { dataFolder: dataFolder(), place, hasFiles, key, shop: shop.name, shopId: shopId(database), now }
    const { name, bytes } = await ask<Packed>({ order: 'backup', packing: order })
    addMissingWipes(dataFolder(), place)
    await removeOld(place, shopId(database), now, shop.papers.backupDays)
    const seconds = Math.round((performance.now() - begun) / 100) / 10
    keepBackupState(database, { tried: now, last: { at, name, bytes, seconds }, failed: null })
  } catch (error) {
    const says = error instanceof SafeFault ? error.message : 'It failed; the server’s log has the details.'
    if (!(error instanceof SafeFault)) logFault(error)
    keepBackupState(database, { ...backupState(database), failed: { at, says } })
  } finally {
    busy.backup = false
  }
}

/** The backups of this shop in their place, newest first; none where it cannot be read. */
export async function backupsIn(place: string, own: string): Promise<Health['backup']['kept']> {
  const names = (await readdir(place).catch(() => [])).filter((name) => /^shop-\d{4}-\d\d-\d\dT\d{6}Z$/.test(name))
  const found = await Promise.all(
    names.map(async (name) => {
      const manifest = await readBackup(join(place, name)).catch(() => null)
      const content = await stat(join(place, name, BACKUP_FILES.content)).catch(() => null)
      return manifest && content && (manifest.shopId === null || manifest.shopId === own)
        ? [{ name, at: manifest.at, bytes: content.size, hasFiles: manifest.hasFiles }]
        : []
    }),
  )
  return found.flat().sort((one, other) => other.at.localeCompare(one.at))
}

/** Removes what is past its time. Backups of another shop in the same place are left alone. */
async function removeOld(place: string, own: string, now: number, keepDays: number): Promise<void> {
  const found = (await backupsIn(place, own)).map(({ name, at }) => ({ name, at: Date.parse(at) }))
  const kept = new Set(keptBackups(found, now, keepDays).map(({ name }) => name))
  for (const { name } of found) if (!kept.has(name)) await rm(join(place, name), { recursive: true, force: true })
}

/** Makes a backup where one is due. */
export async function backUpIfDue(): Promise<void> {
  const { database, clock } = useLantern()
  if (busy.backup || !backupSettings(database)) return
  const { last, tried } = backupState(database)
  if (isBackupDue(last ? Date.parse(last.at) : null, tried, clock.now())) await backUp()
}

/** Checks the database and its history, and notes what was found. */
export async function checkShop(): Promise<void> {
  const { database, clock } = useLantern()
  if (busy.check) throw refused('It is being checked already.')
  busy.check = true
  try {
    const found = await ask<Pick<IntegrityCheck, 'isSound' | 'says'>>({ order: 'check', dataFolder: dataFolder() })
    keepCheck(database, { ...found, at: new Date(clock.now()).toISOString() })
  } catch (error) {
    if (!(error instanceof SafeFault)) logFault(error)
    const says = error instanceof SafeFault ? error.message : 'The check failed; the server’s log has the details.'
    keepCheck(database, { isSound: false, says, at: new Date(clock.now()).toISOString() })
  } finally {
    busy.check = false
  }
}
