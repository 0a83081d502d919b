import { DAY_MS, MINUTE_MS } from '../../core/cases/shape/moment'
import { linkFailure } from '../../core/bench/fault'
import type { LinkStateName, Need } from '../../core/bench/state'
import { backupView, countedIn, keepOf, keepView, lotsOf, missingFrom, visible } from './holding'
import { need, NO_EFFECTS, type ActionRule, type Behaviour } from './rules'
import { keep, type Account, type StoredKeep, type World } from './things'

const LOCKED_MINUTES = 15
const TRIES = 5
/** For how long an account can turn its contacts back. */
const STATES_DAYS = 30

function stateName(account: Account, now: number): LinkStateName {
  if (account.faults.isLost) return 'lost'
  if (account.stage === 'in' && account.sessionEnds > now) return 'ready'
  return account.stage === 'asks-code' ? 'asks-second-factor' : 'signed-out'
}

function needsOf(state: LinkStateName): Need[] {
  const ask = (answer: Need['answer'], says: string): Need => ({ answer, says, byHand: false, choices: [] })
  if (state === 'lost') return [ask('plug-in', 'The line is out: try it again.')]
  if (state === 'signed-out')
    return [ask('password', 'Sign in with the client’s password, from here and not from the device.')]
  if (state === 'asks-second-factor')
    return [ask('second-factor', 'Ask the client for the code that was just sent to them.')]
  return [ask('sign-out', 'Sign out when the work is done.')]
}

const SAYS: Partial<Record<LinkStateName, string>> = {
  lost: 'The line is out.',
  'signed-out': 'Nobody is signed in.',
  'asks-second-factor': 'The password is right. It asks for a second factor.',
  ready: 'Signed in.',
}

function signIn(account: Account, world: World, password: string) {
  if (account.lockedUntil > world.now) {
    const minutes = Math.ceil((account.lockedUntil - world.now) / MINUTE_MS)
    throw linkFailure('too-many-tries', `It takes no password for ${minutes} more minutes.`, 0)
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
    throw linkFailure('too-many-tries', `That was one too many: it takes no password for ${LOCKED_MINUTES} minutes.`, 0)
  }
  account.triesLeft = TRIES
  if (account.secondFactor === null) opened(account, world)
  else account.stage = 'asks-code'
}

function opened(account: Account, world: World) {
  account.stage = 'in'
  account.sessionEnds = world.now + account.sessionMinutes * MINUTE_MS
}

/** Keeps that are there now: states of contacts for a month, exports until their link ends. */
function keepsNow(account: Account, now: number): StoredKeep[] {
  return account.keeps.filter((one) => {
    if (one.kind === 'earlier-state') return one.asOf !== null && Date.parse(one.asOf) > now - STATES_DAYS * DAY_MS
    if (one.kind === 'export')
      return one.asOf !== null && Date.parse(one.asOf) + account.exports.linkDays * DAY_MS > now
    return true
  })
}

const contactsOf = (account: Account) => account.keeps.find((one) => one.id === 'contacts')

const turnBack: ActionRule<Account> = {
  title: 'Turn the contacts back to an earlier day',
  says: 'Replaces the contacts of today by those of the chosen day, on the account and on every device that syncs with it.',
  wantsFrom: true,
  isOffered: (account) => account.keeps.some((one) => one.kind === 'earlier-state'),
  needs: (account, world, { from }) => [
    need('account', account.stage === 'in', 'The account is signed in.'),
    ...(from === ''
      ? []
      : [need('kind', stateNamed(account, world, from) !== null, 'The account still has that day.')]),
  ],
  effects: (account, world, { from }) => {
    const then = from === '' ? null : stateNamed(account, world, from)
    const current = contactsOf(account)
    if (!then || !current) return NO_EFFECTS
    const now = countedIn([current], world.contents)
    const earlier = countedIn([then], world.contents)
    return { ...NO_EFFECTS, gone: lotsOf(missingFrom(earlier, now)), back: lotsOf(missingFrom(now, earlier)) }
  },
  minutes: () => 2,
  advance: (account, world, task) => {
    const then = stateNamed(account, world, task.parameters.from)
    const current = contactsOf(account)
    if (!then || !current) return
    current.items = then.items.map((one) => ({ ...one }))
    account.revision++
    task.says = `There are ${current.items.length} contacts again, as on ${then.asOf?.slice(0, 10)}.`
  },
}

function stateNamed(account: Account, world: World, from: string): StoredKeep | null {
  const id = from.split('/').at(-1)
  return keepsNow(account, world.now).find((one) => one.kind === 'earlier-state' && one.id === id) ?? null
}

const askExport: ActionRule<Account> = {
  title: 'Ask for a data export',
  says: 'Everything that was posted or sent, in open formats; comes later, by a link that ends after some days.',
  wantsFrom: false,
  isOffered: (account) => account.keeps.some((one) => one.id === 'posts'),
  needs: (account) => [need('account', account.stage === 'in', 'The account is signed in.')],
  effects: () => NO_EFFECTS,
  minutes: (account) => account.exports.hours * 60,
  advance: (account, _, task) => {
    const wanted = task.parameters.types
    const posts = account.keeps.find((one) => one.id === 'posts')
    const items = (posts?.items ?? []).filter((one) => wanted.length === 0 || wanted.includes(one.type))
    account.keeps.push(
      keep({
        id: `export.${task.id}`,
        kind: 'export',
        title: 'Data export',
        types:
          [...new Set(items.map((one) => one.type))].length > 0
            ? [...new Set(items.map((one) => one.type))]
            : ['files'],
        items: items.map((one) => ({ ...one })),
        asOf: new Date(task.ends).toISOString(),
      }),
    )
    account.revision++
    task.says = `The link has come; it ends ${account.exports.linkDays} days later.`
  },
}

const putBackFromBin: ActionRule<Account> = {
  title: 'Put back out of a bin',
  says: 'Moves items from a bin of the account to where they were.',
  wantsFrom: true,
  isOffered: (account) => account.keeps.some((one) => one.kind === 'bin'),
  needs: (account) => [need('account', account.stage === 'in', 'The account is signed in.')],
  effects: () => NO_EFFECTS,
  minutes: () => 0,
  advance: (account, world, task) => {
    const bin = keepOf(account, task.parameters.from.split('/')[1] ?? '')
    const home = account.keeps.find((one) => one.id === bin.id.replace(/-bin$/, ''))
    const chosen = new Set(task.parameters.items)
    const back = visible(bin, world.now).filter((one) => chosen.has(one.id))
    for (const one of back) home?.items.push({ ...one, deleted: null, presence: 'present' })
    bin.items = bin.items.filter((one) => !back.includes(one))
    account.revision++
    task.says = `${back.length} are back where they were.`
  },
}

/** How an account behaves. */
export const accountBehaviour: Behaviour<Account> = {
  state: (account, world) => {
    const state = stateName(account, world.now)
    return {
      state,
      says:
        state === 'signed-out' && account.stage === 'in'
          ? 'The session has ended by itself; sign in again.'
          : state === 'ready'
            ? `Signed in as ${account.name}, the account of ${account.owner}.`
            : (SAYS[state] ?? ''),
      needs: needsOf(state),
      platform: 'account',
      power: null,
      room: null,
      isOnline: true,
      triesLeft: account.triesLeft,
      triesEnd: 'locks',
      encryption: null,
      account: { id: account.id, name: account.name, isSyncing: false },
      sessionEnds: state === 'ready' ? new Date(account.sessionEnds).toISOString() : null,
      bytesPerSecond: account.faults.slow ?? account.bytesPerSecond,
      keeps:
        state === 'ready'
          ? [
              ...keepsNow(account, world.now)
                .filter((one) => one.id !== 'posts')
                .map((one) => keepView(one, world.now)),
              ...account.backups.map((one) => backupView(one, account.name, account.slots, world.contents)),
            ]
          : [],
    }
  },
  answer: (account, world, { answer, value }) => {
    if (answer === 'plug-in') account.faults.isLost = false
    else if (account.faults.isLost) throw linkFailure('lost', 'The line is out.')
    else if (answer === 'password') signIn(account, world, value)
    else if (answer === 'second-factor') {
      if (account.stage !== 'asks-code') throw linkFailure('not-ready', 'It asks for the password first.')
      if (value.replace(/\s/g, '') !== account.secondFactor)
        throw linkFailure('wrong-code', 'That code is wrong; ask for a new one.')
      opened(account, world)
    } else if (answer === 'sign-out') account.stage = 'out'
    else throw linkFailure('bad-request', 'An account asks for no such thing.')
  },
  opened: (account, world, keep) => {
    const state = stateName(account, world.now)
    if (state === 'lost') throw linkFailure('lost', 'The line is out.')
    if (state !== 'ready')
      throw linkFailure(account.stage === 'in' ? 'session-ended' : 'not-ready', 'Sign in to the account first.')
    if (keep.id === 'posts' || !keepsNow(account, world.now).includes(keep))
      throw linkFailure('not-found', 'It is not kept any more.')
  },
  actions: { 'turn-back': turnBack, 'ask-export': askExport, 'put-back-from-bin': putBackFromBin },
  live: () => {},
}
