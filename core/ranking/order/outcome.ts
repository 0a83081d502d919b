import { broughtBy } from './brought'
import type { Built } from './build-problem'
import type { Played } from './play'

/** What following a policy is expected to bring, by slice of the axes: shares of what is missing there. */
export interface Outcome {
  readonly reached: readonly number[]
  /** the same in each joint state */
  readonly byState: readonly { readonly probability: number; readonly reached: readonly number[] }[]
}

/** What came of a policy that was played, laid out over the slices of the axes. */
export function outcomeOf({ problem, columns, isHere }: Built, { endings }: Played): Outcome {
  const { states } = problem
  // By set of what worked: the chance, in each state, that the plan ends with it.
  const chances = new Map<number, number[]>()
  for (const { probability, beliefs, history } of endings) {
    const so = chances.get(history.worked) ?? states.map(() => 0)
    chances.set(history.worked, so)
    for (const [at, belief] of beliefs.entries()) so[at] = so[at]! + probability * belief
  }
  const inState = states.map((state, at) => {
    const reached = problem.worth.map(() => 0)
    for (const [worked, chance] of chances) {
      if (chance[at] === 0) continue
      const by = broughtBy(problem, at, worked)
      for (let column = 0; column < reached.length; column++)
        reached[column] = reached[column]! + (chance[at]! / state.probability) * by[column]!
    }
    return reached
  })
  const mean = (column: number, counts: (state: number) => boolean) => {
    let sum = 0
    let whole = 0
    for (const [at, { probability }] of states.entries())
      if (counts(at)) {
        sum += probability * inState[at]![column]!
        whole += probability
      }
    return whole > 0 ? sum / whole : 0
  }
  return {
    reached: columns.map((column, slice) => mean(column, (state) => isHere === null || isHere(state, slice))),
    byState: states.map(({ probability }, at) => ({
      probability,
      reached: columns.map((column) => inState[at]![column]!),
    })),
  }
}
