import type { JointState, Problem } from './problem'

/**
 * The reference that the solver is checked against: tries every order of every subset of steps and every stopping
 * point, straight from the definition of the objective. Written apart from the solver; the two share only the shape of
 * the problem. For tests; 6 steps take about 2,000 orders.
 */
export function bestByTryingAll(problem: Problem): { value: number; steps: number[] } {
  let best = { value: 0, steps: [] as number[] }
  const go = (sequence: number[], sum: number) => {
    if (sum > best.value + 1e-12) best = { value: sum, steps: [...sequence] }
    problem.steps.forEach((step, j) => {
      if (sequence.includes(j) || step.requires.some((needed) => !sequence.includes(needed))) return
      go([...sequence, j], sum + term(problem, sequence, j))
    })
  }
  go([], 0)
  return best
}

/** gain − Q × cost − harm of step j after the steps S; what is due on finding is due in the states in which it is found. */
function term(problem: Problem, S: number[], j: number): number {
  const step = problem.steps[j]!
  const busy = S.map((i) => problem.steps[i]!.busy).reduce((a, b) => a + b, 0)
  const spoilt = S.map((i) => problem.steps[i]!.leaves[j]!).reduce((a, b) => a * b, 1)
  let sum = 0
  for (const state of problem.states) {
    const gain = state.windows[j]!(busy) * spoilt * (V(problem, state, [...S, j]) - V(problem, state, S))
    const Q = S.map((i) => 1 - chanceIn(problem, state, i) * full(problem, state, i)).reduce((a, b) => a * b, 1)
    sum += state.probability * (gain - Q * (step.cost + chanceIn(problem, state, j) * step.take))
  }
  return sum - (step.coveredBy.some((i) => S.includes(i)) ? 0 : step.harm)
}

const chanceIn = (problem: Problem, state: JointState, i: number) =>
  state.access[problem.steps[i]!.group]! * state.own[i]!

function full(problem: Problem, state: JointState, i: number): number {
  const share = state.share[i]!
  const least = share.length === 0 ? 0 : share.reduce((a, b) => Math.min(a, b))
  // Many items: nobody stops at 70 % or less, everybody at 98 %, and evenly more of them in between.
  const part = (least - 0.7) / 0.28
  return problem.items < 5 ? least : part < 0 ? 0 : part > 1 ? 1 : part
}

/** V(S) = Σ worth × (1 − Π_c (1 − access_c (1 − Π_i (1 − own_i share_i)))), nested passes by their larger one. */
function V(problem: Problem, state: JointState, S: number[]): number {
  const reach = (i: number, k: number) => state.own[i]! * state.share[i]![k]!
  return problem.worth
    .map((worth, k) => {
      let dark = 1
      for (let c = 0; c < problem.groups; c++) {
        const onCopy = S.filter((i) => problem.steps[i]!.group === c)
        const alone = onCopy.filter((i) => problem.steps[i]!.nest === null).map((i) => reach(i, k))
        const names = new Set(onCopy.map((i) => problem.steps[i]!.nest).filter((nest) => nest !== null))
        const nested = [...names].map((name) =>
          Math.max(...onCopy.filter((i) => problem.steps[i]!.nest === name).map((i) => reach(i, k))),
        )
        dark *= 1 - state.access[c]! * (1 - [...alone, ...nested].reduce((so, q) => so * (1 - q), 1))
      }
      return worth * (1 - dark)
    })
    .reduce((a, b) => a + b, 0)
}
