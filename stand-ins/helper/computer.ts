import { linkFailure } from '../../core/bench/fault'
import type { LinkStateName, Need } from '../../core/bench/state'
import { backupView, countedIn, keepOf, keepView, lotsOf, missingFrom, visible } from './holding'
import { need, NO_EFFECTS, type ActionRule, type Behaviour } from './rules'
import type { Computer, StoredKeep } from './things'

const FOR_BOOKMARKS = 'bookmarks'

function stateName(computer: Computer): LinkStateName {
  if (computer.faults.isLost) return 'lost'
  if (computer.isAsleep) return 'asleep'
  return computer.password !== null && !computer.isSignedIn ? 'signed-out' : 'ready'
}

const SAYS: Partial<Record<LinkStateName, string>> = {
  lost: 'It does not answer: the cable is out.',
  asleep: 'It sleeps and answers nothing.',
  'signed-out': 'It waits for somebody to sign in.',
  ready: 'It is open and can be read.',
}

function needsOf(state: LinkStateName): Need[] {
  const ask = (answer: Need['answer'], says: string, byHand: boolean): Need => ({ answer, says, byHand, choices: [] })
  if (state === 'lost') return [ask('plug-in', 'Put the cable in again, at both ends.', true)]
  if (state === 'asleep') return [ask('wake', 'Wake it, and let it not fall asleep while it is read.', true)]
  if (state === 'signed-out') return [ask('password', 'Let its owner sign in.', false)]
  return []
}

const freeBytes = (computer: Computer) =>
  computer.faults.isFull
    ? 0
    : Math.max(
        0,
        computer.room.capacity -
          computer.room.other -
          computer.keeps.reduce((sum, keep) => sum + keep.items.reduce((all, one) => all + one.bytes, 0), 0),
      )

/** Bookmark archives go, the oldest first, where more than these are kept. */
const MOST_ARCHIVES = 15

const turnBack: ActionRule<Computer> = {
  title: 'Load an older state of the bookmarks',
  says: 'Replaces the bookmarks of today by those of the chosen archive.',
  wantsFrom: true,
  isOffered: (computer) => computer.keeps.some((one) => one.kind === 'earlier-state'),
  needs: () => [],
  effects: (computer, world, { from }) => {
    const then = stateNamed(computer, from)
    const current = computer.keeps.find((one) => one.id === FOR_BOOKMARKS)
    if (!then || !current) return NO_EFFECTS
    const now = countedIn([current], world.contents)
    const earlier = countedIn([then], world.contents)
    return { ...NO_EFFECTS, gone: lotsOf(missingFrom(earlier, now)), back: lotsOf(missingFrom(now, earlier)) }
  },
  minutes: () => 0,
  advance: (computer, _, task) => {
    const then = stateNamed(computer, task.parameters.from)
    const current = computer.keeps.find((one) => one.id === FOR_BOOKMARKS)
    if (!then || !current) throw linkFailure('not-found', 'That archive is not there.')
    current.items = then.items.map((one) => ({ ...one }))
    computer.revision++
    task.says = `There are ${current.items.length} bookmarks again.`
  },
}

function stateNamed(computer: Computer, from: string): StoredKeep | null {
  const id = from.split('/').at(-1)
  return computer.keeps.find((one) => one.kind === 'earlier-state' && one.id === id) ?? null
}

const putBackFromBin: ActionRule<Computer> = {
  title: 'Put back out of the bin',
  says: 'Moves files from the bin to where they were.',
  wantsFrom: true,
  isOffered: (computer) => computer.keeps.some((one) => one.kind === 'bin'),
  needs: () => [],
  effects: () => NO_EFFECTS,
  minutes: () => 0,
  advance: (computer, world, task) => {
    const bin = keepOf(computer, task.parameters.from.split('/')[1] ?? '')
    const home = computer.keeps.find((one) => one.id === 'files')
    const chosen = new Set(task.parameters.items)
    const back = visible(bin, world.now).filter((one) => chosen.has(one.id))
    for (const one of back) home?.items.push({ ...one, deleted: null, presence: 'present' })
    bin.items = bin.items.filter((one) => !back.includes(one))
    computer.revision++
    task.says = `${back.length} are back where they were.`
  },
}

const restorePoint: ActionRule<Computer> = {
  title: 'Turn the system back to a restore point',
  says: 'Turns system files and settings back. It brings no documents, and writes to the disk.',
  wantsFrom: true,
  isOffered: (computer) => computer.keeps.some((one) => one.kind === 'restore-point'),
  needs: (computer) => [need('room', freeBytes(computer) > 0, 'There is room on its disk.')],
  effects: () => NO_EFFECTS,
  minutes: () => 20,
  advance: (computer, _, task) => {
    computer.revision++
    task.says = 'System files and settings are as they were. No document came back.'
  },
}

/** How a computer behaves. */
export const computerBehaviour: Behaviour<Computer> = {
  state: (computer, world) => {
    const state = stateName(computer)
    return {
      state,
      says: SAYS[state] ?? '',
      needs: needsOf(state),
      platform: computer.platform,
      power: null,
      room: { capacity: computer.room.capacity, free: freeBytes(computer) },
      isOnline: false,
      triesLeft: null,
      triesEnd: null,
      encryption: null,
      account: null,
      sessionEnds: null,
      bytesPerSecond: computer.faults.slow ?? 60_000_000,
      keeps:
        state === 'ready'
          ? [
              ...computer.keeps.map((keep) => keepView(keep, world.now)),
              ...computer.backups.map((one) => backupView(one, null, null, world.contents)),
            ]
          : [],
    }
  },
  answer: (computer, _, { answer, value }) => {
    if (answer === 'plug-in') computer.faults.isLost = false
    else if (computer.faults.isLost) throw linkFailure('lost', 'It does not answer.')
    else if (answer === 'wake') computer.isAsleep = false
    else if (answer === 'password') {
      if (value !== computer.password) throw linkFailure('wrong-password', 'That password is wrong.')
      computer.isSignedIn = true
    } else if (answer === 'sign-out') computer.isSignedIn = false
    else throw linkFailure('bad-request', 'A computer asks for no such thing.')
  },
  opened: (computer) => {
    const state = stateName(computer)
    if (state === 'lost') throw linkFailure('lost', SAYS.lost!)
    if (state !== 'ready') throw linkFailure('not-ready', SAYS[state]!)
  },
  actions: { 'turn-back': turnBack, 'put-back-from-bin': putBackFromBin, restore: restorePoint },
  live: (computer) => {
    const archives = computer.keeps.filter((one) => one.kind === 'earlier-state')
    if (archives.length <= MOST_ARCHIVES) return
    const oldest = [...archives]
      .sort((one, other) => (one.asOf! < other.asOf! ? -1 : 1))
      .slice(0, archives.length - MOST_ARCHIVES)
    computer.keeps = computer.keeps.filter((one) => !oldest.includes(one))
  },
}
