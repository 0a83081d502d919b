import type { LinkStateName, Need } from '../../../core/bench/state'
import { isBusy, need } from '../rules'
import type { Account, Phone, World } from '../things'

const MIN_POWER = 0.5
const LOW_POWER = 0.2

export const accountOf = (world: World, id: string | null): Account | null => {
  const thing = id === null ? undefined : world.things.get(id)
  return thing?.kind === 'account' ? thing : null
}

/** Bytes that a phone's own items take. */
const usedBytes = (phone: Phone) =>
  phone.keeps.reduce((sum, keep) => sum + keep.items.reduce((all, item) => all + item.bytes, 0), 0)

export const freeBytes = (phone: Phone) =>
  phone.faults.isFull ? 0 : Math.max(0, phone.room.capacity - phone.room.other - usedBytes(phone))

export const isOpen = (phone: Phone) => phone.passcode === null || phone.isUnlocked || phone.via !== null

export function stateName(phone: Phone): LinkStateName {
  if (phone.faults.isLost) return 'lost'
  if (phone.isAsleep) return 'asleep'
  if (phone.stage === 'first-set-up') return 'first-set-up'
  if (!isOpen(phone)) return 'locked'
  if (phone.platform === 'closed-phone' && phone.via === null && !phone.trusts.includes('bench')) return 'asks-to-trust'
  if (phone.debugging === false) return 'debugging-off'
  if (phone.power.isCharging) return 'charging'
  return phone.power.fraction < LOW_POWER ? 'battery-low' : 'ready'
}

/** Computers on the bench that this phone has trusted before. */
export const trustedHere = (phone: Phone, world: World) =>
  [...world.things.values()].filter((one) => one.kind === 'computer' && phone.trusts.includes(one.id))

export const SAYS: Record<LinkStateName, string> = {
  lost: 'It does not answer: the cable is out.',
  asleep: 'It is asleep and does not answer.',
  locked: 'It is locked. Unlock it to read it.',
  'asks-to-trust': 'It asks on its own screen whether it may trust this computer.',
  'debugging-off': 'Files can be read. Its app databases cannot while its debugging switch is off.',
  'signed-out': '',
  'asks-second-factor': '',
  'first-set-up': 'It shows its first screen, as new: none of its owner’s data is on it.',
  'battery-low': 'It can be read. Its battery is too low for anything that takes long.',
  charging: 'It is open, charging, and can be read.',
  ready: 'It is open and can be read.',
}

export function needsOf(phone: Phone, state: LinkStateName, world: World): Need[] {
  const ask = (answer: Need['answer'], says: string, byHand = true, choices: string[] = []): Need => ({
    answer,
    says,
    byHand,
    choices,
  })
  const trusted = trustedHere(phone, world)
  const needs: Need[] = []
  if (state === 'lost') needs.push(ask('plug-in', 'Reconnect the cable at both ends.'))
  if (state === 'asleep') needs.push(ask('wake', 'Wake it with its button.'))
  if (state === 'locked') {
    if (phone.screen === 'works') needs.push(ask('passcode', 'Let its owner enter the passcode.'))
    if (trusted.length > 0)
      needs.push(
        ask(
          'trust',
          'Connect through a computer that it trusts.',
          false,
          trusted.map((one) => one.id),
        ),
      )
    else if (phone.screen === 'cracked')
      needs.push(ask('trust', 'Its screen takes no passcode. Attach a computer that it trusts.', false))
  }
  if (state === 'asks-to-trust') needs.push(ask('trust', 'Tap “trust” on its screen, then enter the passcode there.'))
  if (state === 'debugging-off')
    needs.push(ask('debugging', 'Switch on debugging in its settings for developers, if rows of apps are wanted.'))
  if (!['lost', 'asleep', 'locked'].includes(state)) {
    if (!phone.power.isCharging) needs.push(ask('charger', 'Put it on a charger.', true, ['on']))
    needs.push(
      phone.isOnline
        ? ask('network', 'Take it off the network, so that nothing is synced.', true, ['off'])
        : ask('network', 'It is off the network. Put it on only for a step that needs it.', true, ['on']),
    )
  }
  return needs
}

/** What every long step asks of a phone. */
export const commonNeeds = (phone: Phone) => [
  need(
    'battery',
    phone.power.isCharging || phone.power.fraction >= MIN_POWER,
    'It charges, or its battery is more than half full.',
  ),
  need('idle', !isBusy(phone), 'Nothing else is going on with it.'),
]
