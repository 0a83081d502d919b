import type { Considered } from './consider'
import type { Estimate } from '../situation/estimate'
import { firstRouteIn } from '../order/course'
import { neededFor, plannedFor, worthAlone } from '../order/planned'
import { isPreparation } from '../order/preparations'
import { withOnly, type JointState, type Problem } from '../order/problem'
import type { Plan } from '../situation/plan-shape'

/** How many times the odds are varied; enough to tell a firm first step from a toss-up. */
const MOVES = 48

/** Beyond this many steps only those that could come first are varied. */
const MAX_CONTENDERS = 5

/** The first bases of Halton's sequence, one for each option. */
const BASES = [2, 3, 5, 7, 11]

/**
 * How often the first route stays first while every option's odds move within their ranges, all at once
 * and each on its own, over points that fill the ranges evenly (J. H. Halton, 1960), so that the same
 * case always gives the same answer. Null where nothing is in the plan.
 */
export function sensitivityOf({ live, built, best }: Considered): Plan['sensitivity'] {
  const isRoute = live.map((option) => !isPreparation(option))
  const first = firstRouteIn(best.next, isRoute)
  if (first === null) return null
  const kept = contenders(built.problem, best.exact, first)
  const problem = withOnly(built.problem, kept)
  const odds = kept.map(
    (index): Estimate => live[index]!.chanceFactors.find((factor) => factor.name === 'works')?.value ?? [1, 1, 1],
  )
  const rivals = new Map<number, number>()
  let stays = 0
  for (let move = 1; move <= MOVES; move++) {
    const scale = odds.map((range, index) => within(range, halton(move, BASES[index]!)) / Math.max(1e-9, range[1]))
    const states = problem.states.map((state): JointState => ({
      ...state,
      own: state.own.map((own, index) => Math.min(1, own * scale[index]!)),
    }))
    const { next } = plannedFor({ ...problem, states })
    const place = firstRouteIn(
      next,
      kept.map((step) => isRoute[step]!),
    )
    const then = place === null ? null : kept[place]!
    if (then === first) stays++
    else if (then !== null) rivals.set(then, (rivals.get(then) ?? 0) + 1)
  }
  const rival = [...rivals].sort((one, other) => other[1] - one[1])[0]
  return { firstStays: stays / MOVES, rival: rival ? live[rival[0]]!.id : null }
}

/** The steps that could come first: the plan's own and those worth most on their own, with what they require. */
function contenders(problem: Problem, exact: readonly number[], first: number): number[] {
  if (exact.length <= MAX_CONTENDERS) return [...exact]
  const alone = exact.map((step) => ({ step, worth: worthAlone(problem, step) }))
  const kept = new Set<number>()
  for (const step of [first, ...alone.sort((one, other) => other.worth - one.worth).map((one) => one.step)]) {
    const more = neededFor(problem, step).filter((one) => !kept.has(one))
    if (kept.size + more.length <= MAX_CONTENDERS) for (const one of more) kept.add(one)
  }
  return [...kept].sort((one, other) => one - other)
}

/** A point of a range: its lower half is between low and mid, its upper half between mid and high. */
function within([low, mid, high]: Estimate, at: number): number {
  return at < 0.5 ? low + (mid - low) * at * 2 : mid + (high - mid) * (at - 0.5) * 2
}

/** The digits of a number in a base, mirrored at the point: evenly spread over 0 to 1. */
function halton(index: number, base: number): number {
  let rest = index
  let fraction = 1
  let value = 0
  while (rest > 0) {
    fraction /= base
    value += fraction * (rest % base)
    rest = Math.floor(rest / base)
  }
  return value
}
