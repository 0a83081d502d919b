import type { Case } from '../../cases/shape/case'
import type { Change } from '../../cases/facts/facts'
import { known } from '../../cases/shape/fact'
import type { Playbook } from '../../playbook/playbook'
import { NO_EVIDENCE, type Evidence } from './evidence'
import type { LossRange } from './loss-range'
import { lossRangeOf } from './loss-range'
import { keptBy } from './kept-by'
import { workClock, type WorkClock } from './opening-hours'
import { supposing } from './suppose'

/** What every part of the engine looks at: the case, the playbook, the time, and when the loss was. */
export interface Situation {
  readonly ofCase: Case
  readonly playbook: Playbook
  /** what the shop's own runs have taught */
  readonly evidence: Evidence
  /** ms since the epoch */
  readonly now: number
  readonly loss: LossRange
  readonly ticked: ReadonlySet<string>
  /** the shop's working time from an instant (ms) on; each is worked out once */
  readonly workFrom: (start: number) => WorkClock
  /** the situation as stated by the client, where this one supposes more; otherwise itself */
  readonly told: Pick<Situation, 'ofCase' | 'loss'>
}

/** What a plan of a case is computed from at a moment (`now`, ms since the epoch); what is costly is computed once. */
export function situationOf(
  ofCase: Case,
  playbook: Playbook,
  now: number,
  evidence: Evidence = NO_EVIDENCE,
): Situation {
  const ticked = new Set(ofCase.holds.filter((mark) => mark.mark === 'ticked').map((mark) => mark.hold))
  const loss = lossRangeOf(ofCase, now)
  const workFrom = keptBy((start: number) => workClock(start, playbook.shop))
  return { ofCase, playbook, evidence, now, loss, ticked, workFrom, told: { ofCase, loss } }
}

/** The same situation if these facts were so. */
export function supposingIn(situation: Situation, changes: readonly Change[]): Situation {
  const ofCase = supposing(situation.ofCase, changes)
  const movesLoss = changes.some((change) => change.fact.startsWith('loss.') || change.fact.startsWith('wanted.'))
  return { ...situation, ofCase, loss: movesLoss ? lossRangeOf(ofCase, situation.now) : situation.loss }
}

/** A date in the shop's zone, for sentences. */
export function zoneOf(situation: Situation): string {
  return situation.playbook.shop.zone
}

/** True where the way of losing is known and is one of these. */
export function wasLostBy(situation: Situation, ways: readonly string[]): boolean {
  const { how } = situation.ofCase.loss
  return known(how) && ways.includes(how)
}
