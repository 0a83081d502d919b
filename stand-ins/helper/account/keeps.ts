import { DAY_MS } from '../../../core/cases/shape/moment'
import type { Account, StoredKeep, World } from '../things'

/** For how long an account can turn its contacts back. */
const STATES_DAYS = 30

/** Keeps that are there now: states of contacts for a month, exports until their link ends. */
export function keepsNow(account: Account, now: number): StoredKeep[] {
  return account.keeps.filter((one) => {
    if (one.kind === 'earlier-state') return one.asOf !== null && Date.parse(one.asOf) > now - STATES_DAYS * DAY_MS
    if (one.kind === 'export')
      return one.asOf !== null && Date.parse(one.asOf) + account.exports.linkDays * DAY_MS > now
    return true
  })
}

/** When the link of an export ends; null for anything else. */
export const keptUntil = (account: Account, { kind, asOf }: StoredKeep): string | null =>
  kind === 'export' && asOf !== null
    ? new Date(Date.parse(asOf) + account.exports.linkDays * DAY_MS).toISOString()
    : null

/** The earlier state of its contacts that "link/keep" names; null where it is not kept any more. */
export function stateNamed(account: Account, world: World, from: string): StoredKeep | null {
  const id = from.split('/').at(-1)
  return keepsNow(account, world.now).find((one) => one.kind === 'earlier-state' && one.id === id) ?? null
}
