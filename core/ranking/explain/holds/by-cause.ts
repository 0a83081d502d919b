import type { Case } from '../../../cases/shape/case'
import { LIES_ON_SOMETHING } from '../../../cases/shape/copy'
import { known } from '../../../cases/shape/fact'
import { LOSS_KINDS, type LossKind } from '../../../cases/shape/loss'
import { deviceWords } from '../../../cases/telling/words'
import type { Cell } from './by-condition'
import { affected, on, type HoldRule } from './finding'

/** What each way of losing forbids by itself, with {device} for the device that it happened on, or why it says nothing. */
export const HOLDS_BY_CAUSE: Record<LossKind, Cell> = {
  'deleted-singly': { nothing: 'The holds on use, sync and backups say what a deletion forbids.' },
  'deleted-in-bulk': { nothing: 'The holds on use, sync and backups say what a deletion forbids.' },
  'deleted-past-bin': { nothing: 'The holds on use, sync and backups say what a deletion forbids.' },
  'bin-emptied': { nothing: 'The holds on use, sync and backups say what a deletion forbids.' },
  'factory-reset': {
    hold: 'no-set-up',
    what: 'Do not set {device} up before the plan is made',
    why: 'it offers to restore once, and a backup of the empty one can replace the good one',
  },
  reinstalled: {
    hold: 'no-clean-up',
    what: 'Let {device} remove no older system',
    why: 'its folder may still have everything',
  },
  formatted: { nothing: 'The hold on the medium says that nothing may write to it.' },
  'crashed-before-saving': { nothing: 'The hold on tidying up says what keeps the recovery files.' },
  'saved-over': { nothing: 'The hold on tidying up says what keeps the earlier versions.' },
  'sync-switched': { nothing: 'The hold on sync says how it is left.' },
  'app-removed': {
    hold: 'no-new-app',
    what: 'Do not install the app on {device} again by itself',
    why: 'a fresh one can take the place of the folder and the backup of the old one',
  },
  'locked-out': {
    hold: 'no-reset',
    what: 'Decline every offer of {device} to reset itself',
    why: 'all is still on it, and a reset erases it',
  },
  broken: { nothing: 'What is broken forbids what its condition says.' },
  'device-gone': {
    hold: 'no-remote-erase',
    what: 'Do not erase {device} from afar, and leave it in its account',
    why: 'one that is found again has nothing on it then, and its backups may go with the account',
  },
  malware: {
    hold: 'isolate-malware',
    what: 'Take {device} off every network, and connect no backup disk to it',
    why: 'what encrypts files goes on to everything that it reaches',
  },
  'not-lost-yet': { nothing: 'Nothing has been lost; everything may still be used.' },
}

/** Copies on disks that somebody may connect to a device. */
const onDisks = ({ copies }: Case) => copies.filter(({ kind }) => LIES_ON_SOMETHING.includes(kind)).map(({ id }) => id)

/** What the way of losing forbids on each device on which it happened. */
export const byCause: HoldRule = ({ ofCase }) => {
  const { how } = ofCase.loss
  const cell = known(how) ? HOLDS_BY_CAUSE[how] : null
  if (!cell || !('hold' in cell)) return []
  return affected(ofCase).flatMap((device) => {
    const what = cell.what.replace('{device}', deviceWords(device))
    return on(device, ofCase, cell.hold, what, cell.why, ['loss.how']).map((hold) => ({
      ...hold,
      isForAll: true,
      copies: how === 'malware' ? onDisks(ofCase) : [],
    }))
  })
}

/** The kinds of hold that ways of losing bring. */
export const CAUSE_HOLDS: readonly string[] = LOSS_KINDS.flatMap((how) => {
  const cell = HOLDS_BY_CAUSE[how]
  return 'hold' in cell ? [cell.hold] : []
})
