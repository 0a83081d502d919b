import type { Estimate } from '../situation/estimate'
import type { Played } from './play'
import { spreadOf } from '../figures/quantile'

/** What one step of the order takes when it is done. */
export interface StepPrice {
  readonly handsOn: number
  readonly waiting: number
  /** due whether it works or not */
  readonly look: number
}

/** Minutes and money up to some point of the order, as ranges. */
export interface Estimates {
  readonly handsOn: Estimate
  readonly waiting: Estimate
  readonly money: Estimate
}

/** Up to the first step that brings anything, with the chance that one does; null where none can. */
export function toFirstSuccess(played: Played, prices: readonly StepPrice[]): (Estimates & { chance: number }) | null {
  const chance = played.firstSuccess.reduce((sum, one) => sum + one, 0)
  const estimates = upTo(played.firstSuccess, played, prices)
  return estimates && { chance, ...estimates }
}

/** Up to the stopping point, or to the step after which nothing is missing any more. */
export function toStop(played: Played, prices: readonly StepPrice[]): Estimates | null {
  const ends = played.needed.map((needed, turn) => needed - (played.needed[turn + 1] ?? 0))
  return upTo(ends, played, prices)
}

function upTo(ends: readonly number[], played: Played, prices: readonly StepPrice[]): Estimates | null {
  const over = (of: (turn: number) => number) => {
    let so = 0
    return spreadOf(
      ends.map((probability, turn) => {
        so += of(turn)
        return { probability, value: so }
      }),
    )
  }
  const handsOn = over((turn) => prices[turn]!.handsOn)
  const waiting = over((turn) => prices[turn]!.waiting)
  const money = over((turn) => prices[turn]!.look + played.taken[turn]! / Math.max(1e-9, played.needed[turn]!))
  return handsOn && waiting && money ? { handsOn, waiting, money } : null
}
