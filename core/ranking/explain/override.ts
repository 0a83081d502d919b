import type { Considered } from './consider'
import { forecastsOf, meanShareOf } from './forecast'
import { stepGain, type Worths } from '../order/order'
import { playBuilt } from '../order/play'
import type { Problem } from '../order/problem'
import type { Override } from '../situation/plan-shape'

/**
 * A preferred order as of now: closed routes are left out, what a route requires is put in front of it, the rest of the
 * best order comes after it, and its price is the best order's value less its own.
 */
export function overrideOf(considered: Considered, preferred: readonly string[]): Override {
  const { live, built, best, worths, axes } = considered
  const steps: number[] = []
  const add = (index: number) => {
    if (steps.includes(index)) return
    for (const before of built.problem.steps[index]!.requires) add(before)
    steps.push(index)
  }
  for (const id of [...preferred, ...best.steps.map((step) => live[step]!.id)]) {
    const index = live.findIndex((option) => option.id === id)
    if (index >= 0) add(index)
  }
  const played = playBuilt(built, steps)
  return {
    order: steps.map((step) => live[step]!.id),
    price: Math.max(0, best.value - worthOf(built.problem, steps, worths)),
    share: meanShareOf(forecastsOf(axes, { low: played, mid: played, high: played })),
  }
}

function worthOf(problem: Problem, steps: readonly number[], worths: Worths): number {
  return steps.reduce((sum, step, turn) => {
    const { gain, price, harm } = stepGain(problem, steps.slice(0, turn), step, worths)
    return sum + gain - price - harm
  }, 0)
}
