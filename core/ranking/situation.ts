import type { Case } from '../cases/case'
import type { Playbook } from '../playbook/playbook'
import type { LossRange } from './loss-range'
import { lossRangeOf } from './loss-range'

/** What every part of the engine looks at: the case, the playbook, the time, and when the loss was. */
export interface Situation {
  readonly ofCase: Case
  readonly playbook: Playbook
  /** ms since the epoch */
  readonly now: number
  readonly loss: LossRange
  readonly ticked: ReadonlySet<string>
}

export function situationOf(ofCase: Case, playbook: Playbook, now: number): Situation {
  const ticked = new Set(ofCase.holds.filter((mark) => mark.mark === 'ticked').map((mark) => mark.hold))
  return { ofCase, playbook, now, loss: lossRangeOf(ofCase, now), ticked }
}

/** A date in the shop's zone, for sentences. */
export function zoneOf(situation: Situation): string {
  return situation.playbook.shop.zone
}
