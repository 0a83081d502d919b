import type { RouteKindInput } from './route-kind'

type Gate = RouteKindInput['gates'][number]

/** What most routes cost besides the work: nothing to look, nothing to take. */
export const FREE: RouteKindInput['money'] = { look: 0, take: 0 }

/** What has to be at hand before somebody signs in to an account. */
export const READY_TO_SIGN_IN: readonly string[] = [
  'Account name and password, and the second factor',
  'A browser of the shop, not the client’s device',
]

/** Gates that many kinds share, with how likely each is met while that is unknown. */
export const WORKING: Gate = { gate: 'working', prior: [0.7, 0.9, 0.98] }
export const PASSCODE: Gate = { gate: 'passcode', prior: [0.75, 0.92, 0.99] }
export const DISK_OUT: Gate = { gate: 'disk-out', prior: [0.75, 0.92, 0.98] }
export const CABLE: Gate = { gate: 'cable', prior: [0.3, 0.55, 0.8] }
export const BACKUP_PASSWORD: Gate = { gate: 'backup-password', prior: [0.3, 0.55, 0.8] }
export const SELECTIVE: Gate = { gate: 'selective', prior: [0.7, 0.85, 0.95] }
export const SIGN_IN: Gate = {
  gate: 'account',
  prior: [0.55, 0.8, 0.93],
  cure: { says: 'Reset the account’s password with the client first', handsOn: 20, chance: 0.75 },
}
