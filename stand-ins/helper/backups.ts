import { linkFailure } from '../../core/bench/fault'
import type { ActionParameters } from '../../core/bench/action'
import { backupKeepId } from './holding'
import type { StoredBackup, StoredKeep, Phone, World } from './things'

const COPIED: readonly StoredKeep['kind'][] = ['library', 'files', 'apps']

/** Everything that a backup of this phone takes, as it is now. Pictures that only the cloud has are left to it. */
export function contentsForBackup(phone: Phone, keepsBins: boolean): StoredKeep[] {
  return phone.keeps
    .filter((keep) => keep.isOn && (COPIED.includes(keep.kind) || (keepsBins && keep.kind === 'bin')))
    .map((keep) => ({
      ...keep,
      items: keep.items.filter((item) => item.kept !== 'cloud').map((item) => ({ ...item })),
    }))
}

export function newBackup(
  phone: Phone,
  taken: number,
  where: Pick<StoredBackup, 'account' | 'keepsBins' | 'isSelective' | 'password'>,
): StoredBackup {
  const iso = new Date(taken).toISOString()
  return {
    id: `${phone.id}-${iso.slice(0, 16).replace(/[^0-9]/g, '')}`,
    device: phone.id,
    deviceTitle: phone.title,
    platform: phone.platform,
    taken: iso,
    ...where,
    keeps: contentsForBackup(phone, where.keepsBins),
    archive: null,
    archiveBytes: 0,
  }
}

/** The backups of one device that a place keeps, oldest first. */
export const backupsOf = (backups: readonly StoredBackup[], device: string) =>
  backups.filter((one) => one.device === device).sort((one, other) => Date.parse(one.taken) - Date.parse(other.taken))

/** The backup that goes when one more comes; null while there is a free slot. */
export function pushedOut(backups: readonly StoredBackup[], device: string, slots: number): StoredBackup | null {
  const own = backupsOf(backups, device)
  return own.length >= slots ? own[0]! : null
}

/** Finds what "link/keep" names among the backups; a LinkFailure where there is none. */
export function backupNamed(
  world: World,
  parameters: Pick<ActionParameters, 'from'>,
): { holder: string; backup: StoredBackup } {
  const [holder = '', keep = ''] = parameters.from.split('/')
  const backup = world.things.get(holder)?.backups.find((one) => backupKeepId(one) === keep)
  if (!backup) throw linkFailure('not-found', 'That backup is not there.')
  return { holder, backup }
}
