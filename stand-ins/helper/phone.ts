import { TZDate } from '@date-fns/tz'
import { addDays, set } from 'date-fns'
import type { ActionParameters } from '../../core/bench/action'
import { linkFailure } from '../../core/bench/fault'
import type { LinkStateName, Need } from '../../core/bench/state'
import { withRows } from '../content/databases'
import { backupNamed, newBackup, pushedOut } from './backups'
import { countedIn, keepOf, keepView, lotsOf, missingFrom, visible } from './holding'
import { isBusy, need, NO_EFFECTS, type ActionRule, type Behaviour } from './rules'
import type { Account, Phone, StoredItem, StoredKeep, World } from './things'

/** How long one picture takes to come back over the line, seconds. */
const SYNC_SECONDS = 4
const READ_MINUTES = 2
const RESTORE_MINUTES = 12
const LEAST_POWER = 0.5
const LOW_POWER = 0.2
/** With fewer tries than this left, no passcode is tried any more. */
const WIPED_AT = 0

const accountOf = (world: World, id: string | null): Account | null => {
  const thing = id === null ? undefined : world.things.get(id)
  return thing?.kind === 'account' ? thing : null
}

/** Bytes that a phone's own items take. */
const usedBytes = (phone: Phone) =>
  phone.keeps.reduce((sum, keep) => sum + keep.items.reduce((all, item) => all + item.bytes, 0), 0)

const freeBytes = (phone: Phone) =>
  phone.faults.isFull ? 0 : Math.max(0, phone.room.capacity - phone.room.other - usedBytes(phone))

const isOpen = (phone: Phone) => phone.passcode === null || phone.isUnlocked || phone.via !== null

function stateName(phone: Phone): LinkStateName {
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
const trustedHere = (phone: Phone, world: World) =>
  [...world.things.values()].filter((one) => one.kind === 'computer' && phone.trusts.includes(one.id))

const SAYS: Record<LinkStateName, string> = {
  lost: 'It does not answer: the cable is out.',
  asleep: 'It sleeps and answers nothing.',
  locked: 'It is locked, and shows nothing before it is unlocked.',
  'asks-to-trust': 'It asks on its own screen whether it may trust this computer.',
  'debugging-off': 'Files can be read. The rows of its apps can not while its debugging switch is off.',
  'signed-out': '',
  'asks-second-factor': '',
  'first-set-up': 'It stands at its first screen, as new: nothing of its owner is on it.',
  'battery-low': 'It can be read. Its battery is too low for anything that takes long.',
  charging: 'It is open, charging, and can be read.',
  ready: 'It is open and can be read.',
}

function needsOf(phone: Phone, state: LinkStateName, world: World): Need[] {
  const ask = (answer: Need['answer'], says: string, byHand = true, choices: string[] = []): Need => ({
    answer,
    says,
    byHand,
    choices,
  })
  const trusted = trustedHere(phone, world)
  const needs: Need[] = []
  if (state === 'lost') needs.push(ask('plug-in', 'Put the cable in again, at both ends.'))
  if (state === 'asleep') needs.push(ask('wake', 'Wake it with its button.'))
  if (state === 'locked') {
    if (phone.screen === 'works') needs.push(ask('passcode', 'Let its owner enter the passcode.'))
    if (trusted.length > 0)
      needs.push(
        ask(
          'trust',
          'Speak to it through a computer that it trusts.',
          false,
          trusted.map((one) => one.id),
        ),
      )
    else if (phone.screen === 'cracked')
      needs.push(ask('trust', 'Its screen takes no passcode: bring a computer that it trusts.', false))
  }
  if (state === 'asks-to-trust') needs.push(ask('trust', 'Tap “trust” on its screen, then enter the passcode there.'))
  if (state === 'debugging-off')
    needs.push(ask('debugging', 'Switch on debugging in its settings for developers, if rows of apps are wanted.'))
  if (!['lost', 'asleep', 'locked'].includes(state)) {
    if (!phone.power.isCharging) needs.push(ask('charger', 'Put it on a charger.', true, ['on']))
    needs.push(
      phone.isOnline
        ? ask('network', 'Take it off the network, so that nothing is sent on meanwhile.', true, ['off'])
        : ask('network', 'It is off the network. Put it on only for a step that needs it.', true, ['on']),
    )
  }
  return needs
}

/** Whatever is done to a phone that is being read breaks the reading off. */
function disturb(phone: Phone) {
  phone.appsRead = false
  for (const task of phone.tasks)
    if (task.state === 'running' && task.action === 'read-apps') {
      task.state = 'failed'
      task.says = 'Somebody touched it while it was read. Nothing on it was changed; read it again.'
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
      `That passcode is wrong. It erases itself after ${phone.triesLeft} more.`,
      phone.triesLeft,
    )
  eraseAll(phone)
  throw linkFailure('too-many-tries', 'It has erased itself after too many wrong passcodes.', 0)
}

function eraseAll(phone: Phone) {
  for (const keep of phone.keeps) if (keep.kind !== 'sim') keep.items = []
  phone.stage = 'first-set-up'
  phone.passcode = null
  phone.isUnlocked = false
  phone.via = null
  phone.trusts = []
  phone.triesLeft = null
  phone.appsRead = false
  phone.sync = { ...phone.sync, isOn: false, deletions: [] }
  phone.revision++
}

/** Items that the account's library still holds and the phone does not. */
function broughtBySync(phone: Phone, world: World): { keep: StoredKeep; items: StoredItem[] } | null {
  const library = accountOf(world, phone.sync.account)?.keeps.find((one) => one.id === 'library')
  const own = phone.keeps.find((one) => one.id === 'library')
  if (!library || !own) return null
  const has = new Set(own.items.map((one) => one.id))
  const dropped = new Set(phone.sync.deletions)
  return { keep: own, items: library.items.filter((one) => !has.has(one.id) && !dropped.has(one.id)) }
}

/** Items of the account's library that go into its bin when sync carries on what was deleted here. */
function carriedOn(phone: Phone, world: World): StoredItem[] {
  const library = accountOf(world, phone.sync.account)?.keeps.find((one) => one.id === 'library')
  const dropped = new Set(phone.sync.deletions)
  return library?.items.filter((one) => dropped.has(one.id)) ?? []
}

const restore: ActionRule<Phone> = {
  title: 'Restore the whole device from a backup',
  says: 'Erases everything on it and sets it up again as it was when the backup was made.',
  wantsFrom: true,
  isOffered: () => true,
  needs: (phone, world, parameters) => {
    const named = parameters.from === '' ? null : backupNamed(world, parameters)
    const holder = named ? world.things.get(named.holder) : null
    const bytes =
      named?.backup.keeps.reduce((sum, keep) => sum + keep.items.reduce((all, one) => all + one.bytes, 0), 0) ?? 0
    return [
      ...common(phone),
      need('passcode', isOpen(phone), 'The passcode is entered.'),
      ...(holder?.kind === 'account'
        ? [
            need('account', holder.stage === 'in', 'The account that holds the backup is signed in.'),
            need('network', phone.isOnline, 'It is on the network, to fetch the backup.'),
          ]
        : []),
      ...(named
        ? [need('kind', named.backup.platform === phone.platform, 'The backup is of this family of devices.')]
        : []),
      ...(named?.backup.password
        ? [need('password', parameters.password === named.backup.password, 'The backup opens with its password.')]
        : []),
      need(
        'room',
        bytes <= phone.room.capacity - phone.room.other && !phone.faults.isFull,
        'There is room for what the backup holds.',
      ),
    ]
  },
  effects: (phone, world, parameters) => {
    const now = countedIn(phone.keeps, world.contents)
    if (parameters.from === '') return { ...NO_EFFECTS, erases: true, gone: lotsOf(now) }
    const then = countedIn(backupNamed(world, parameters).backup.keeps, world.contents)
    return {
      erases: true,
      gone: lotsOf(missingFrom(then, now)),
      back: lotsOf(missingFrom(now, then)),
      replacesBackup: null,
    }
  },
  minutes: () => RESTORE_MINUTES,
  advance: (phone, world, task) => {
    const { backup } = backupNamed(world, task.parameters)
    eraseAll(phone)
    for (const keep of backup.keeps) {
      const own = phone.keeps.find((one) => one.id === keep.id)
      if (own) own.items = keep.items.map((one) => ({ ...one }))
    }
    phone.stage = 'in-use'
    phone.isUnlocked = true
    phone.trusts = ['bench']
    task.says = `It is as it was on ${backup.taken.slice(0, 10)}.`
  },
}

const common = (phone: Phone) => [
  need(
    'battery',
    phone.power.isCharging || phone.power.fraction >= LEAST_POWER,
    'It charges, or its battery is more than half full.',
  ),
  need('idle', !isBusy(phone), 'Nothing else is going on with it.'),
]

const erase: ActionRule<Phone> = {
  title: 'Erase the device',
  says: 'Removes everything on it; it starts at its first screen.',
  wantsFrom: false,
  isOffered: (phone) => phone.stage === 'in-use',
  needs: (phone) => [...common(phone), need('passcode', isOpen(phone), 'The passcode is entered.')],
  effects: (phone, world) => ({ ...NO_EFFECTS, erases: true, gone: lotsOf(countedIn(phone.keeps, world.contents)) }),
  minutes: () => 4,
  advance: (phone, _, task) => {
    eraseAll(phone)
    task.says = 'Everything on it is gone.'
  },
}

const syncOn: ActionRule<Phone> = {
  title: 'Switch sync on',
  says: 'Brings back what the account still holds; carries on what was deleted here while it was off.',
  wantsFrom: false,
  isOffered: (phone) => phone.sync.account !== null && !phone.sync.isOn && phone.stage === 'in-use',
  needs: (phone, world) => {
    const bytes = broughtBySync(phone, world)?.items.reduce((sum, one) => sum + one.bytes, 0) ?? 0
    return [
      ...common(phone),
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

function binCarriedOn(phone: Phone, world: World) {
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

const syncOff: ActionRule<Phone> = {
  title: 'Switch sync off',
  says: 'Nothing more is sent on; what is on it stays.',
  wantsFrom: false,
  isOffered: (phone) => phone.sync.isOn,
  needs: (phone) => [need('passcode', isOpen(phone), 'The passcode is entered.')],
  effects: () => NO_EFFECTS,
  minutes: () => 0,
  advance: (phone, _, task) => {
    phone.sync.isOn = false
    task.says = 'Sync is off.'
  },
}

const backUp: ActionRule<Phone> = {
  title: 'Back up into its account',
  says: 'Makes a backup in the account that it is signed in to.',
  wantsFrom: false,
  isOffered: (phone) => phone.nightly.account !== null && phone.stage === 'in-use',
  needs: (phone) => [...common(phone), need('network', phone.isOnline, 'It is on the network.')],
  effects: (phone, world) => {
    const account = accountOf(world, phone.nightly.account)
    const out = account ? pushedOut(account.backups, phone.id, phone.nightly.slots) : null
    return { ...NO_EFFECTS, replacesBackup: out ? `backup.${out.id}` : null }
  },
  minutes: () => 6,
  advance: (phone, world, task) => {
    backUpNow(phone, world, task.ends)
    task.says = 'The backup is made.'
  },
}

function backUpNow(phone: Phone, world: World, at: number) {
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

const readApps: ActionRule<Phone> = {
  title: 'Read the rows of its apps',
  says: 'Copies the databases of its apps, live and deleted rows alike. It must not be touched meanwhile.',
  wantsFrom: false,
  isOffered: (phone) => phone.stage === 'in-use' && phone.keeps.some((one) => one.kind === 'apps'),
  needs: (phone) => [
    need('idle', !isBusy(phone), 'Nothing else is going on with it.'),
    need('passcode', isOpen(phone), 'It is unlocked, or spoken to through a computer that it trusts.'),
    phone.debugging === null
      ? need('kind', phone.via !== null || phone.trusts.includes('bench'), 'It trusts this computer.')
      : need('kind', phone.debugging, 'Its debugging switch is on.'),
  ],
  effects: () => NO_EFFECTS,
  minutes: () => READ_MINUTES,
  advance: (phone, _, task) => {
    phone.appsRead = true
    task.says = 'The databases of its apps have been read.'
  },
}

const mergeIn: ActionRule<Phone> = {
  title: 'Merge contacts in',
  says: 'Adds the contacts that it does not have; nothing on it is replaced.',
  wantsFrom: true,
  isOffered: (phone) => phone.stage === 'in-use',
  needs: (phone) => [
    need('passcode', isOpen(phone), 'The passcode is entered.'),
    need('idle', !isBusy(phone), 'Nothing else is going on with it.'),
  ],
  effects: (phone, world, parameters) => ({ ...NO_EFFECTS, back: lotsOf(missingContacts(phone, world, parameters)) }),
  minutes: () => 1,
  advance: (phone, world, task) => {
    const missing = missingContacts(phone, world, task.parameters)
    putRecords(
      phone,
      world,
      missing.map((one) => JSON.parse(one.key)),
    )
    task.says = `${missing.length} contacts were added.`
  },
}

function missingContacts(phone: Phone, world: World, { from }: Pick<ActionParameters, 'from'>) {
  const [holder = '', keepId = ''] = from.split('/')
  const thing = world.things.get(holder)
  if (!thing) return []
  const source = keepOf(thing, keepId)
  const own = countedIn(phone.keeps, world.contents)
  return missingFrom(
    own,
    countedIn([{ ...source, kind: 'files', items: visible(source, world.now) }], world.contents),
  ).filter((one) => one.type === 'contacts')
}

/** Adds records to the databases of the phone's apps. */
export function putRecords(phone: Phone, world: World, records: readonly NonNullable<StoredItem['record']>[]) {
  const apps = phone.keeps.find((one) => one.kind === 'apps')
  if (!apps) throw linkFailure('not-found', 'It has no apps that keep such things.')
  for (const database of apps.items) {
    const fitting = records.filter((record) => database.id === `${record.kind}s`)
    if (fitting.length === 0 || !database.content) continue
    const bytes = withRows(world.contents.get(database.content), fitting)
    database.content = world.contents.put(bytes)
    database.bytes = bytes.length
  }
  phone.revision++
}

const putBackFromBin: ActionRule<Phone> = {
  title: 'Put back out of a bin',
  says: 'Moves items from a bin to where they were.',
  wantsFrom: true,
  isOffered: (phone) => phone.stage === 'in-use',
  needs: (phone) => [need('passcode', isOpen(phone), 'The passcode is entered.')],
  effects: () => NO_EFFECTS,
  minutes: () => 0,
  advance: (phone, world, task) => {
    const bin = keepOf(phone, task.parameters.from.split('/')[1] ?? '')
    const chosen = new Set(task.parameters.items)
    const back = visible(bin, world.now).filter((one) => chosen.has(one.id))
    const records = back.flatMap((one) => (one.record ? [one.record] : []))
    if (records.length > 0) putRecords(phone, world, records)
    const home = phone.keeps.find((one) => one.id === (bin.types.includes('photos') ? 'library' : 'files'))
    for (const one of back.filter((found) => !found.record))
      home?.items.push({ ...one, deleted: null, presence: 'present' })
    bin.items = bin.items.filter((one) => !back.includes(one))
    phone.revision++
    task.says = `${back.length} are back where they were.`
  },
}

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
    } else throw linkFailure('bad-request', 'A phone asks for no such thing.')
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

function closedWords(phone: Phone, keep: StoredKeep): string | null {
  if (keep.kind !== 'apps' || phone.appsRead) return null
  return phone.debugging === false
    ? 'Its debugging switch is off.'
    : 'The rows of its apps have not been read yet: read them first, and do not touch it meanwhile.'
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

/** The moments of nightly backups in a span, ms; no more than the last forty. */
function nightsBetween(phone: Phone, from: number, to: number, zone: string): number[] {
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
