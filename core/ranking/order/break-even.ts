import { keptBy } from '../situation/kept-by'
import { HARDLY_EVER, triedIn } from './course'
import { NOTHING_TRIED } from './histories'
import { play } from './play'
import { solverOf, type Policy } from './policy'
import type { Problem } from './problem'

/** How many times more everything may be worth before it is no longer asked from what worth up a step is tried. */
const MOST_TIMES = 64
/** Halvings of a factor of 2: to within 5 %. */
const HALVINGS = 4

/** Policies for everything being worth so many times as much, with the chance that each step is tried then. */
export type Scaled = (times: number) => { readonly policy: Policy; readonly tried: readonly number[] }

/** Branches less likely than this say nothing of whether a step is tried. */
const LEAST = 1e-3

/** The policies of one problem, each worked out once. */
export function scaledFor(problem: Problem): Scaled {
  const solve = solverOf(problem)
  return keptBy((times: number) => {
    const policy = solve(times)
    return { policy, tried: triedIn(problem, play(problem, policy.next, LEAST)) }
  })
}

/** How many times as much everything would have to be worth so that the step is tried; null where no worth makes it so. */
export function breakEvenOf(scaled: Scaled, step: number): number | null {
  return leastTimes((times) => scaled(times).tried[step]! >= HARDLY_EVER)
}

/** How many times as much everything would have to be worth so that anything is tried at all. */
export function breakEvenOfAll(scaled: Scaled): number | null {
  return leastTimes((times) => scaled(times).policy.next(NOTHING_TRIED) !== null)
}

function leastTimes(isEnough: (times: number) => boolean): number | null {
  let high = 1
  while (!isEnough(high)) {
    if (high >= MOST_TIMES) return null
    high *= 2
  }
  if (high === 1) return 1
  let low = high / 2
  for (let halving = 0; halving < HALVINGS; halving++) {
    const middle = Math.sqrt(low * high)
    if (isEnough(middle)) high = middle
    else low = middle
  }
  return high
}
