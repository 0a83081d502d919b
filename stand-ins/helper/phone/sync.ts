import type { Phone, StoredItem, StoredKeep, World } from '../things'
import { accountOf } from './state'

/** Items that the account's library still holds and the phone does not. */
export function broughtBySync(phone: Phone, world: World): { keep: StoredKeep; items: StoredItem[] } | null {
  const library = accountOf(world, phone.sync.account)?.keeps.find((one) => one.id === 'library')
  const own = phone.keeps.find((one) => one.id === 'library')
  if (!library || !own) return null
  const has = new Set(own.items.map((one) => one.id))
  const dropped = new Set(phone.sync.deletions)
  return { keep: own, items: library.items.filter((one) => !has.has(one.id) && !dropped.has(one.id)) }
}

/** Items of the account's library that go into its bin when sync carries on what was deleted here. */
export function carriedOn(phone: Phone, world: World): StoredItem[] {
  const library = accountOf(world, phone.sync.account)?.keeps.find((one) => one.id === 'library')
  const dropped = new Set(phone.sync.deletions)
  return library?.items.filter((one) => dropped.has(one.id)) ?? []
}

/** What was deleted here while sync was off goes into the bin of the account. */
export function binCarriedOn(phone: Phone, world: World) {
  const account = accountOf(world, phone.sync.account)
  const library = account?.keeps.find((one) => one.id === 'library')
  const bin = account?.keeps.find((one) => one.id === 'library-bin')
  const gone = carriedOn(phone, world)
  if (!account || !library || !bin || gone.length === 0) return
  library.items = library.items.filter((one) => !gone.includes(one))
  bin.items.push(
    ...gone.map((one) => ({ ...one, deleted: new Date(world.now).toISOString(), presence: 'deleted' as const })),
  )
  phone.sync.deletions = []
  account.revision++
}
