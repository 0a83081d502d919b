import { TZDate } from '@date-fns/tz'
import { addDays, set } from 'date-fns'
import { newBackup, pushedOut } from '../backups'
import type { Phone, World } from '../things'
import { accountOf } from './state'

/** Makes a backup in the account; the oldest goes where its place keeps no more. */
export function backUpNow(phone: Phone, world: World, at: number) {
  const account = accountOf(world, phone.nightly.account)
  if (!account) return
  const out = pushedOut(account.backups, phone.id, phone.nightly.slots)
  account.backups = account.backups.filter((one) => one !== out)
  account.backups.push(
    newBackup(phone, at, {
      account: account.id,
      keepsBins: phone.nightly.keepsBins,
      isSelective: true,
      password: null,
    }),
  )
  account.revision++
}

/** The moments of nightly backups in a span, ms; no more than the last forty. */
export function nightsBetween(phone: Phone, from: number, to: number, zone: string): number[] {
  const nights: number[] = []
  let at = set(new TZDate(from, zone), {
    hours: phone.nightly.hour,
    minutes: phone.nightly.minute,
    seconds: 0,
    milliseconds: 0,
  })
  for (; at.getTime() <= to; at = addDays(at, 1)) if (at.getTime() > from) nights.push(at.getTime())
  return nights.slice(-40)
}
