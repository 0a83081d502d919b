import { reachedBy } from './order'
import { fullness, type JointState, type Problem } from './problem'

/** What carrying out an order is expected to bring and to take. */
export interface Played {
  /** share of what is missing that will be reached, by slice over all wanted sets */
  readonly reached: readonly number[]
  /** by step of the order: the chance that it is still needed when its turn comes */
  readonly needed: readonly number[]
  readonly money: number
}

/**
 * Plays an order forward, state by state: each step begins when those before it are done, finds its
 * window as it then is and what the others spoilt, and is only done while something may be missing.
 */
export function play(problem: Problem, order: readonly number[]): Played {
  const played = problem.states.map((state) => playIn(problem, state, order))
  const mean = (of: (one: Played) => readonly number[]) =>
    of(played[0]!).map((_, index) =>
      played.reduce((sum, one, at) => sum + problem.states[at]!.probability * of(one)[index]!, 0),
    )
  return {
    reached: mean((one) => one.reached),
    needed: mean((one) => one.needed),
    money: played.reduce((sum, one, at) => sum + problem.states[at]!.probability * one.money, 0),
  }
}

function playIn(problem: Problem, state: JointState, order: readonly number[]): Played {
  const own = state.own.map(() => 0)
  const needed: number[] = []
  let missing = 1
  let busy = 0
  let money = 0
  for (const [turn, index] of order.entries()) {
    const step = problem.steps[index]!
    const unspoilt = order.slice(0, turn).reduce((so, before) => so * problem.steps[before]!.leaves[index]!, 1)
    own[index] = state.own[index]! * state.windowLeft(index, busy) * unspoilt
    needed.push(missing)
    const chance = state.access[step.group]! * own[index]!
    money += missing * chance * step.take
    missing *= 1 - chance * fullness(step, problem.items)
    busy += step.busy
  }
  const subset = order.reduce((so, index) => so | (1 << index), 0)
  return { reached: [...reachedBy(problem, { ...state, own }, subset)], needed, money }
}
