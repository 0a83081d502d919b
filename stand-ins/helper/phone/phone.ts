import { linkFailure } from '../../../core/bench/fault'
import { keepView } from '../holding'
import type { Behaviour } from '../rules'
import type { Phone, StoredKeep, World } from '../things'
import { backUp } from './actions/back-up'
import { erase } from './actions/erase'
import { mergeIn } from './actions/merge-in'
import { putBackFromBin } from './actions/put-back-from-bin'
import { readApps } from './actions/read-apps'
import { restore } from './actions/restore'
import { syncOff } from './actions/sync-off'
import { syncOn } from './actions/sync-on'
import { eraseAll } from './erasing'
import { backUpNow, nightsBetween } from './nightly'
import { accountOf, freeBytes, isOpen, needsOf, SAYS, stateName, trustedHere } from './state'

/** With fewer tries than this left, no passcode is tried any more. */
const WIPED_AT = 0

/** How a phone behaves. */
export const phoneBehaviour: Behaviour<Phone> = {
  state: (phone, world) => {
    const state = stateName(phone)
    const account = accountOf(world, phone.sync.account)
    const readable = !['lost', 'asleep', 'locked', 'asks-to-trust', 'first-set-up'].includes(state)
    return {
      state,
      says:
        state === 'locked' && phone.screen === 'cracked'
          ? 'Its screen is cracked and takes no passcode. It answers only to a computer that it trusts.'
          : SAYS[state],
      needs: needsOf(phone, state, world),
      platform: phone.platform,
      power: phone.power,
      room: { capacity: phone.room.capacity, free: freeBytes(phone) },
      isOnline: phone.isOnline,
      triesLeft: phone.triesLeft,
      triesEnd: phone.triesLeft === null ? null : 'erases',
      encryption: phone.encryption,
      account: account && { id: account.id, name: account.name, isSyncing: phone.sync.isOn },
      sessionEnds: null,
      bytesPerSecond: phone.faults.slow ?? 20_000_000,
      keeps: readable ? phone.keeps.map((keep) => keepView(keep, world.now, closedWords(phone, keep))) : [],
    }
  },
  answer: (phone, world, { answer, value }) => {
    disturb(phone)
    if (answer === 'plug-in') phone.faults.isLost = false
    else if (phone.faults.isLost) throw linkFailure('lost', 'It does not answer.')
    else if (answer === 'wake') phone.isAsleep = false
    else if (answer === 'passcode') tryPasscode(phone, value)
    else if (answer === 'trust') trust(phone, world, value)
    else if (answer === 'debugging') switchDebugging(phone, value !== 'off')
    else if (answer === 'charger') phone.power = { ...phone.power, isCharging: value !== 'off' }
    else if (answer === 'network') phone.isOnline = value === 'on'
    else if (answer === 'sign-out') {
      phone.isUnlocked = false
      phone.via = null
    } else throw linkFailure('bad-request', 'A phone does not accept this answer.')
  },
  opened: (phone, _, keep) => {
    const state = stateName(phone)
    if (state === 'lost') throw linkFailure('lost', SAYS.lost)
    if (['asleep', 'locked', 'asks-to-trust'].includes(state)) throw linkFailure('not-ready', SAYS[state])
    const closed = closedWords(phone, keep)
    if (closed !== null) throw linkFailure('not-ready', closed)
  },
  actions: {
    'read-apps': readApps,
    restore,
    erase,
    'sync-on': syncOn,
    'sync-off': syncOff,
    'back-up': backUp,
    'merge-in': mergeIn,
    'put-back-from-bin': putBackFromBin,
  },
  live: (phone, world, from, to) => {
    for (const at of nightsBetween(phone, from, to, world.zone))
      if (phone.nightly.isOn && phone.isOnline && phone.power.isCharging && phone.stage === 'in-use')
        backUpNow(phone, world, at)
  },
}

/** Whatever is done to a phone that is being read breaks the reading off. */
function disturb(phone: Phone) {
  phone.appsRead = false
  for (const task of phone.tasks)
    if (task.state === 'running' && task.action === 'read-apps') {
      task.state = 'failed'
      task.says = 'It was touched while it was read. Nothing on it was changed. Read it again.'
    }
}

function tryPasscode(phone: Phone, typed: string) {
  if (phone.screen === 'cracked') throw linkFailure('not-ready', 'Its screen does not take a passcode.')
  if (phone.passcode === null) return
  if (typed === phone.passcode) {
    phone.isUnlocked = true
    if (phone.triesLeft !== null) phone.triesLeft = 10
    return
  }
  if (phone.triesLeft === null) throw linkFailure('wrong-passcode', 'That passcode is wrong.')
  phone.triesLeft--
  if (phone.triesLeft > WIPED_AT)
    throw linkFailure(
      'wrong-passcode',
      `That passcode is wrong. It erases itself after ${phone.triesLeft} more wrong ones.`,
      phone.triesLeft,
    )
  eraseAll(phone)
  throw linkFailure('too-many-tries', 'It has erased itself after too many wrong passcodes.', 0)
}

function closedWords(phone: Phone, keep: StoredKeep): string | null {
  if (keep.kind !== 'apps' || phone.appsRead) return null
  return phone.debugging === false
    ? 'Its debugging switch is off.'
    : 'Its app databases have not been read yet. Read them first, and do not touch the device until that is done.'
}

function trust(phone: Phone, world: World, computer: string) {
  if (computer !== '' && computer !== 'bench') {
    if (!trustedHere(phone, world).some((one) => one.id === computer))
      throw linkFailure('not-met', 'It does not trust that computer.')
    phone.via = computer
    return
  }
  if (!phone.isUnlocked && phone.passcode !== null) throw linkFailure('not-ready', 'It asks only while it is unlocked.')
  if (!phone.trusts.includes('bench')) phone.trusts.push('bench')
}

function switchDebugging(phone: Phone, isOn: boolean) {
  if (phone.debugging === null) throw linkFailure('bad-request', 'It has no such switch.')
  if (!isOpen(phone)) throw linkFailure('not-ready', 'Its settings open only while it is unlocked.')
  phone.debugging = isOn
}
