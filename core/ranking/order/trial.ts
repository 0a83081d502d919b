import { gotAt, likelihood, stepsByGroup } from './beliefs'
import { worthsOf } from './brought'
import type { History } from './histories'
import { keptWith } from '../situation/kept-by'
import type { Problem } from './problem'
import { timesOf } from './times'

/** One try of a step after a history, on average over what is believed then. */
export interface Trial {
  /** the chance that it is not void, and that it works where it is not */
  readonly open: number
  readonly works: number
  /** by state: the chance that it works there */
  readonly chances: readonly number[]
  /** in money: what it is expected to add, to cost and to destroy */
  readonly adds: number
  readonly price: number
  readonly harm: number
}

const groupsOf = keptWith(stepsByGroup)

/** By state: its chance after a history. */
export function beliefsAfter(problem: Problem, { worked, failed }: History): number[] {
  const weights = problem.states.map((state) =>
    groupsOf(problem).reduce((so, group) => so * likelihood(problem, state, group, worked, failed), state.probability),
  )
  const whole = weights.reduce((sum, weight) => sum + weight, 0)
  return weights.map((weight) => (whole > 0 ? weight / whole : 0))
}

/** What trying a step comes to; `beliefs` are those after the history. */
export function trialOf(
  problem: Problem,
  history: History,
  step: number,
  beliefs: readonly number[] = beliefsAfter(problem, history),
): Trial {
  const { cost, take } = problem.steps[step]!
  const members = groupsOf(problem).find((group) => group.includes(step))!
  const { worked, failed } = history
  const tried = worked | failed | history.void
  const times = timesOf(problem)
  const open = times.open(step, tried)
  const worthIn = worthsOf(problem)
  const [before, after] = [worthIn(worked), worthIn(worked | (1 << step))]
  const mean = (of: (at: number) => number) => beliefs.reduce((sum, belief, at) => sum + belief * of(at), 0)
  const chances = problem.states.map((state) => {
    const seen = likelihood(problem, state, members, worked, failed)
    return seen > 0 ? likelihood(problem, state, members, worked | (1 << step), failed) / seen : 0
  })
  const works = mean((at) => chances[at]!)
  const got = mean((at) => gotAt(problem, problem.states[at]!, members, worked, failed))
  return {
    open,
    works,
    chances,
    adds: open * times.inTime(step, tried) * mean((at) => chances[at]! * (after[at]! - before[at]!)),
    price: cost + open * works * take,
    harm: open * got * harmAfter(problem, step, worked),
  }
}

/** In money: what a step would destroy once these have worked, less what they destroyed of it, and what a copy spares. */
export function harmAfter({ steps, residue }: Problem, step: number, worked: number): number {
  const { harm, destroys, coveredBy } = steps[step]!
  let gone = 0
  for (const [other, done] of steps.entries())
    if (worked & (1 << other) && destroys !== null && done.destroys === destroys) gone = Math.max(gone, done.harm)
  const isCovered = coveredBy.some((other) => worked & (1 << other))
  return Math.max(0, harm - gone) * (isCovered ? residue : 1)
}
