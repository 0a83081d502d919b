import type { Estimate } from '../situation/estimate'
import { spreadOf } from '../figures/quantile'
import type { Played, Spent } from './play'

/** Minutes and money up to some point of a plan, as ranges. */
export interface Estimates {
  readonly handsOn: Estimate
  readonly waiting: Estimate
  readonly money: Estimate
}

/** Up to the first step that brings anything, with the chance that one does; null where none can. */
export function toFirstSuccess({ firsts }: Played): (Estimates & { chance: number }) | null {
  const estimates = spreadsOf(firsts)
  return estimates && { chance: firsts.reduce((sum, one) => sum + one.probability, 0), ...estimates }
}

/** Up to the end of the plan, whichever branch it takes; null where nothing is tried. */
export function toStop({ endings, tries }: Played): Estimates | null {
  return tries.length > 0 ? spreadsOf(endings) : null
}

function spreadsOf(list: readonly { readonly probability: number; readonly spent: Spent }[]): Estimates | null {
  const over = (of: (spent: Spent) => number) =>
    spreadOf(list.map(({ probability, spent }) => ({ probability, value: of(spent) })))
  const handsOn = over(({ hands }) => hands)
  const waiting = over(({ wait }) => wait)
  const money = over((spent) => spent.money)
  return handsOn && waiting && money ? { handsOn, waiting, money } : null
}
