import type { Built } from './build-problem'
import { fullness, type JointState, type Problem } from './problem'
import { reachedBy } from './reached'

/** What carrying out an order is expected to bring and to take. */
export interface Played {
  /** share of what is missing that will be reached, by column of the problem, or by slice once laid out */
  readonly reached: readonly number[]
  /** the same in each joint state */
  readonly byState: readonly { readonly probability: number; readonly reached: readonly number[] }[]
  /** by step of the order: the chance that it is still needed when its turn comes */
  readonly needed: readonly number[]
  /** by step of the order: the chance that it is the first one to succeed */
  readonly firstSuccess: readonly number[]
  /** expected money that is due on finding, by step of the order */
  readonly taken: readonly number[]
}

/** A step that brings less than this share of every slice is no success yet. */
const WORTH_CALLING = 0.1

interface PlayedInState {
  readonly reached: number[]
  readonly needed: number[]
  readonly firstSuccess: number[]
  readonly taken: number[]
}

/**
 * Plays an order forward, state by state: each step starts when those before it are done, under its window at that time
 * and what the others spoilt, and is only done while something may be missing.
 */
export function play(problem: Problem, order: readonly number[]): Played {
  const played = problem.states.map((state) => playIn(problem, state, order))
  const mean = (of: (one: PlayedInState) => readonly number[]) =>
    of(played[0]!).map((_, index) =>
      played.reduce((sum, one, at) => sum + problem.states[at]!.probability * of(one)[index]!, 0),
    )
  return {
    reached: mean((one) => one.reached),
    byState: played.map((one, at) => ({ probability: problem.states[at]!.probability, reached: one.reached })),
    needed: mean((one) => one.needed),
    firstSuccess: mean((one) => one.firstSuccess),
    taken: mean((one) => one.taken),
  }
}

function playIn(problem: Problem, state: JointState, order: readonly number[]): PlayedInState {
  const own = state.own.map(() => 0)
  const needed: number[] = []
  const firstSuccess: number[] = []
  const taken: number[] = []
  let missing = 1
  let nothingYet = 1
  let busy = 0
  for (const [turn, index] of order.entries()) {
    const step = problem.steps[index]!
    const unspoilt = order.slice(0, turn).reduce((so, before) => so * problem.steps[before]!.leaves[index]!, 1)
    own[index] = state.own[index]! * state.windows[index]!(busy) * unspoilt
    needed.push(missing)
    const chance = state.access[step.group]! * own[index]!
    taken.push(missing * chance * step.take)
    const brings = state.share[index]!.some((share) => share >= WORTH_CALLING)
    firstSuccess.push(brings ? nothingYet * chance : 0)
    if (brings) nothingYet *= 1 - chance
    missing *= 1 - chance * fullness(state.share[index]!, problem.items)
    busy += step.busy
  }
  const subset = order.reduce((so, index) => so | (1 << index), 0)
  return { reached: [...reachedBy(problem, { ...state, own }, subset)], needed, firstSuccess, taken }
}

/** What was played, with every slice of the axes in place of the problem's columns. */
export function playBuilt({ problem, columns }: Built, order: readonly number[]): Played {
  const played = play(problem, order)
  const laidOut = (reached: readonly number[]) => columns.map((column) => reached[column]!)
  return {
    ...played,
    reached: laidOut(played.reached),
    byState: played.byState.map((one) => ({ ...one, reached: laidOut(one.reached) })),
  }
}
