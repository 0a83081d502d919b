import { DAY_MS } from '../cases/shape/moment'

/** A backup of the shop by its name, and when it was made (ms). */
export interface DatedBackup {
  readonly name: string
  readonly at: number
}

/** Each of the last so many days keeps its newest backup; of older weeks, the newest of each is kept. */
export const DAILY_DAYS = 7

/**
 * Which backups stay: the newest of each of the last seven days, the newest of each week before, and none older than `keepDays`,
 * since until then it holds what was wiped. The newest of all stays always. `now`: ms.
 */
export function keptBackups<T extends DatedBackup>(backups: readonly T[], now: number, keepDays: number): T[] {
  const newestFirst = [...backups].sort((one, other) => other.at - one.at)
  const taken = new Set<string>()
  return newestFirst.filter((backup, index) => {
    if (index === 0) {
      taken.add(slotOf(backup.at, now))
      return true
    }
    if (now - backup.at > keepDays * DAY_MS) return false
    const slot = slotOf(backup.at, now)
    if (taken.has(slot)) return false
    taken.add(slot)
    return true
  })
}

function slotOf(at: number, now: number): string {
  const days = Math.floor((now - at) / DAY_MS)
  return days < DAILY_DAYS ? `day ${days}` : `week ${Math.floor((days - DAILY_DAYS) / 7)}`
}

/** A new backup is made when the last one is a day old; after one that failed it is tried again in an hour. */
const EVERY_MS = DAY_MS
const AGAIN_MS = DAY_MS / 24

/** Whether a backup is due. `made`: when the last one was made; `tried`: when the last one was begun; ms, null for never. */
export function isBackupDue(made: number | null, tried: number | null, now: number): boolean {
  if (made !== null && now - made < EVERY_MS && now >= made) return false
  return tried === null || now - tried >= AGAIN_MS || now < tried
}
