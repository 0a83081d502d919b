import { linkFailure } from '../../../core/bench/fault'
import { NOTHING_TO_SAY, type LinkStateName, type Need } from '../../../core/bench/state'
import { backupView, keepView } from '../holding'
import type { Behaviour } from '../rules'
import type { Computer } from '../things'
import { putBackFromBin } from './actions/put-back-from-bin'
import { restorePoint } from './actions/restore-point'
import { turnBack } from './actions/turn-back'
import { freeBytes } from './room'

/** Bookmark archives go, the oldest first, where more than these are kept. */
const MAX_ARCHIVES = 15

function stateName(computer: Computer): LinkStateName {
  if (computer.faults.isLost) return 'lost'
  if (computer.isAsleep) return 'asleep'
  return computer.password !== null && !computer.isSignedIn ? 'signed-out' : 'ready'
}

const SAYS: Partial<Record<LinkStateName, string>> = {
  lost: 'It does not answer: the cable is out.',
  asleep: 'It is asleep and does not answer.',
  'signed-out': 'Nobody is signed in.',
  ready: 'It is open and can be read.',
}

function needsOf(state: LinkStateName): Need[] {
  const ask = (answer: Need['answer'], says: string, byHand: boolean): Need => ({ answer, says, byHand, choices: [] })
  if (state === 'lost') return [ask('plug-in', 'Reconnect the cable at both ends.', true)]
  if (state === 'asleep') return [ask('wake', 'Wake it, and keep it awake while it is read.', true)]
  if (state === 'signed-out') return [ask('password', 'Let its owner sign in.', false)]
  return []
}

/** How a computer behaves. */
export const computerBehaviour: Behaviour<Computer> = {
  state: (computer, world) => {
    const state = stateName(computer)
    return {
      ...NOTHING_TO_SAY,
      state,
      says: SAYS[state] ?? '',
      needs: needsOf(state),
      platform: computer.platform,
      room: { capacity: computer.room.capacity, free: freeBytes(computer) },
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
    else throw linkFailure('bad-request', 'A computer does not accept this answer.')
  },
  opened: (computer) => {
    const state = stateName(computer)
    if (state === 'lost') throw linkFailure('lost', SAYS.lost!)
    if (state !== 'ready') throw linkFailure('not-ready', SAYS[state]!)
  },
  actions: { 'turn-back': turnBack, 'put-back-from-bin': putBackFromBin, restore: restorePoint },
  live: (computer) => {
    const archives = computer.keeps.filter((one) => one.kind === 'earlier-state')
    if (archives.length <= MAX_ARCHIVES) return
    const oldest = [...archives]
      .sort((one, other) => (one.asOf! < other.asOf! ? -1 : 1))
      .slice(0, archives.length - MAX_ARCHIVES)
    computer.keeps = computer.keeps.filter((one) => !oldest.includes(one))
  },
}
