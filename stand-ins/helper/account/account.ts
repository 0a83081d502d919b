import { MINUTE_MS } from '../../../core/cases/shape/moment'
import { linkFailure } from '../../../core/bench/fault'
import { NOTHING_TO_SAY, type LinkStateName, type Need } from '../../../core/bench/state'
import { backupView, keepView } from '../holding'
import type { Behaviour } from '../rules'
import type { Account, World } from '../things'
import { askExport } from './actions/ask-export'
import { putBackFromBin } from './actions/put-back-from-bin'
import { turnBack } from './actions/turn-back'
import { keepsNow, keptUntil } from './keeps'

const LOCKED_MINUTES = 15
const TRIES = 5

function stateName(account: Account, now: number): LinkStateName {
  if (account.faults.isLost) return 'lost'
  if (account.stage === 'in' && account.sessionEnds > now) return 'ready'
  return account.stage === 'asks-code' ? 'asks-second-factor' : 'signed-out'
}

function needsOf(state: LinkStateName): Need[] {
  const ask = (answer: Need['answer'], says: string): Need => ({ answer, says, byHand: false, choices: [] })
  if (state === 'lost') return [ask('plug-in', 'The connection is down. Try again.')]
  if (state === 'signed-out')
    return [ask('password', 'Sign in with the client’s password, from here and not from the device.')]
  if (state === 'asks-second-factor')
    return [ask('second-factor', 'Ask the client for the code that was just sent to them.')]
  return [ask('sign-out', 'Sign out when the work is done.')]
}

const SAYS: Partial<Record<LinkStateName, string>> = {
  lost: 'The connection is down.',
  'signed-out': 'Nobody is signed in.',
  'asks-second-factor': 'The password is right. It asks for a second factor.',
  ready: 'Signed in.',
}

function signIn(account: Account, world: World, password: string) {
  if (account.lockedUntil > world.now) {
    const minutes = Math.ceil((account.lockedUntil - world.now) / MINUTE_MS)
    throw linkFailure('too-many-tries', `It accepts no password for ${minutes} more minutes.`, 0)
  }
  if (password !== account.password) {
    account.triesLeft--
    if (account.triesLeft > 0)
      throw linkFailure(
        'wrong-password',
        `That password is wrong; ${account.triesLeft} tries are left.`,
        account.triesLeft,
      )
    account.lockedUntil = world.now + LOCKED_MINUTES * MINUTE_MS
    account.triesLeft = TRIES
    throw linkFailure('too-many-tries', `Too many wrong passwords: it accepts none for ${LOCKED_MINUTES} minutes.`, 0)
  }
  account.triesLeft = TRIES
  if (account.secondFactor === null) opened(account, world)
  else account.stage = 'asks-code'
}

function opened(account: Account, world: World) {
  account.stage = 'in'
  account.sessionEnds = world.now + account.sessionMinutes * MINUTE_MS
}

/** How an account behaves. */
export const accountBehaviour: Behaviour<Account> = {
  state: (account, world) => {
    const state = stateName(account, world.now)
    return {
      ...NOTHING_TO_SAY,
      state,
      says:
        state === 'signed-out' && account.stage === 'in'
          ? 'The session has ended by itself; sign in again.'
          : state === 'ready'
            ? `Signed in as ${account.name}, the account of ${account.owner}.`
            : (SAYS[state] ?? ''),
      needs: needsOf(state),
      platform: 'account',
      isOnline: true,
      triesLeft: account.triesLeft,
      triesEnd: 'locks',
      account: { id: account.id, name: account.name, isSyncing: false },
      sessionEnds: state === 'ready' ? new Date(account.sessionEnds).toISOString() : null,
      bytesPerSecond: account.faults.slow ?? account.bytesPerSecond,
      keeps:
        state === 'ready'
          ? [
              ...keepsNow(account, world.now)
                .filter((one) => one.id !== 'posts')
                .map((one) => ({ ...keepView(one, world.now), until: keptUntil(account, one) })),
              ...account.backups.map((one) => backupView(one, account.name, account.slots, world.contents)),
            ]
          : [],
    }
  },
  answer: (account, world, { answer, value }) => {
    if (answer === 'plug-in') account.faults.isLost = false
    else if (account.faults.isLost) throw linkFailure('lost', 'The connection is down.')
    else if (answer === 'password') signIn(account, world, value)
    else if (answer === 'second-factor') {
      if (account.stage !== 'asks-code') throw linkFailure('not-ready', 'It asks for the password first.')
      if (value.replace(/\s/g, '') !== account.secondFactor)
        throw linkFailure('wrong-code', 'That code is wrong; ask for a new one.')
      opened(account, world)
    } else if (answer === 'sign-out') account.stage = 'out'
    else throw linkFailure('bad-request', 'An account does not accept this answer.')
  },
  opened: (account, world, keep) => {
    const state = stateName(account, world.now)
    if (state === 'lost') throw linkFailure('lost', 'The connection is down.')
    if (state !== 'ready')
      throw linkFailure(account.stage === 'in' ? 'session-ended' : 'not-ready', 'Sign in to the account first.')
    if (keep.id === 'posts' || !keepsNow(account, world.now).includes(keep))
      throw linkFailure('not-found', 'It is not kept any more.')
  },
  actions: { 'turn-back': turnBack, 'ask-export': askExport, 'put-back-from-bin': putBackFromBin },
  live: () => {},
}
