import { countedIn, lotsOf } from '../../holding'
import { need, NO_EFFECTS, type ActionRule } from '../../rules'
import type { Phone, StoredKeep } from '../../things'
import { commonNeeds, freeBytes, isOpen } from '../state'
import { binCarriedOn, broughtBySync, carriedOn } from '../sync'

/** Seconds to download one picture. */
const SYNC_SECONDS = 4

export const syncOn: ActionRule<Phone> = {
  title: 'Switch sync on',
  says: 'Brings back what the account still holds; carries on what was deleted here while it was off.',
  wantsFrom: false,
  isOffered: (phone) => phone.sync.account !== null && !phone.sync.isOn && phone.stage === 'in-use',
  needs: (phone, world) => {
    const bytes = broughtBySync(phone, world)?.items.reduce((sum, one) => sum + one.bytes, 0) ?? 0
    return [
      ...commonNeeds(phone),
      need('passcode', isOpen(phone), 'The passcode is entered.'),
      need('network', phone.isOnline, 'It is on the network.'),
      need('room', bytes <= freeBytes(phone), 'There is room on it for what comes.'),
    ]
  },
  effects: (phone, world) => ({
    ...NO_EFFECTS,
    gone: lotsOf(countedIn([{ ...emptyKeep, items: carriedOn(phone, world) }], world.contents)),
    back: lotsOf(countedIn([{ ...emptyKeep, items: broughtBySync(phone, world)?.items ?? [] }], world.contents)),
  }),
  minutes: (phone, world) => ((broughtBySync(phone, world)?.items.length ?? 0) * SYNC_SECONDS) / 60,
  steps: (phone, world) => Math.max(1, broughtBySync(phone, world)?.items.length ?? 0),
  advance: (phone, world, task, from, to) => {
    if (from === 0) {
      phone.sync.isOn = true
      binCarriedOn(phone, world)
    }
    const brought = broughtBySync(phone, world)
    for (const one of brought?.items.slice(0, to - from) ?? []) brought!.keep.items.push({ ...one, kept: 'both' })
    phone.revision++
    task.says = to === task.total ? `${task.total} came back.` : `${to} of ${task.total} are back.`
  },
}

const emptyKeep: StoredKeep = {
  id: 'x',
  kind: 'library',
  title: 'x',
  types: ['photos'],
  items: [],
  asOf: null,
  periodDays: null,
  isOn: true,
}
