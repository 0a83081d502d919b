import type { JointState, Problem } from './problem'

/**
 * The reference that the solver is checked against: a recursion over histories, straight from the definition of the
 * best policy. Written apart from the solver; the two share only the shape of the problem. For tests; 5 steps take some
 * tens of thousands of histories.
 */
export interface Tried {
  readonly W: readonly number[]
  readonly F: readonly number[]
  readonly X: readonly number[]
}

const NOTHING: Tried = { W: [], F: [], X: [] }

/** U(W, F, X): what going on well from here is worth. */
export function bestByRecursion(problem: Problem, { W, F, X }: Tried = NOTHING): number {
  const T = [...W, ...F, ...X]
  let best = 0
  problem.steps.forEach((step, j) => {
    if (T.includes(j) || step.requires.some((needed) => !W.includes(needed))) return
    best = Math.max(
      best,
      after(problem, { W, F, X }, j, (next) => bestByRecursion(problem, next)),
    )
  })
  return best
}

/** What a fixed order is worth that is carried to its end; a step that is not allowed when its turn comes is left out. */
export function worthOfFixedOrder(problem: Problem, order: readonly number[], { W, F, X }: Tried = NOTHING): number {
  const [j, ...rest] = order
  if (j === undefined) return 0
  if (problem.steps[j]!.requires.some((needed) => !W.includes(needed)))
    return worthOfFixedOrder(problem, rest, { W, F, X })
  return after(problem, { W, F, X }, j, (next) => worthOfFixedOrder(problem, rest, next))
}

/** What trying step j now is worth, with `on` for what comes after it. */
function after(problem: Problem, { W, F, X }: Tried, j: number, on: (next: Tried) => number): number {
  const step = problem.steps[j]!
  const T = [...W, ...F, ...X]
  const before = total(problem, W, F)
  const p = total(problem, [...W, j], F) / before
  const f = window(problem, j, T) * product(T.map((i) => problem.steps[i]!.leaves[j]!))
  const harm = f === 0 || step.harm === 0 ? 0 : f * got(problem, j, W, F) * destroyed(problem, j, W)
  let value = -step.cost - harm
  if (f * p > 0) {
    const gain = late(problem, j, T) * gained(problem, j, W, F)
    value += f * p * (gain - step.take + on({ W: [...W, j], F, X }))
  }
  if (f * (1 - p) > 1e-15) value += f * (1 - p) * on({ W, F: [...F, j], X })
  if (1 - f > 0) value += (1 - f) * on({ W, F, X: [...X, j] })
  return value
}

const product = (factors: readonly number[]) => factors.reduce((a, b) => a * b, 1)
const sum = (terms: readonly number[]) => terms.reduce((a, b) => a + b, 0)

function L(problem: Problem, s: JointState, c: number, W: readonly number[], F: readonly number[]): number {
  const on = (set: readonly number[]) => set.filter((i) => problem.steps[i]!.group === c)
  const a = s.access[c]!
  const failed = product(on(F).map((i) => 1 - s.own[i]!))
  return on(W).length > 0 ? a * product(on(W).map((i) => s.own[i]!)) * failed : 1 - a + a * failed
}

const belief = (problem: Problem, s: JointState, W: readonly number[], F: readonly number[]) =>
  s.probability * product(Array.from({ length: problem.groups }, (_, c) => L(problem, s, c, W, F)))

const total = (problem: Problem, W: readonly number[], F: readonly number[]) =>
  sum(problem.states.map((s) => belief(problem, s, W, F)))

function gained(problem: Problem, j: number, W: readonly number[], F: readonly number[]): number {
  const more = problem.states.map(
    (s) => belief(problem, s, [...W, j], F) * (V(problem, s, [...W, j]) - V(problem, s, W)),
  )
  return sum(more) / total(problem, [...W, j], F)
}

/** V_s(W) = Σ worth × (1 − Π_o (1 − m_o (1 − Π_i (1 − share_i / m_o)))), nested passes by their larger one. */
function V(problem: Problem, s: JointState, W: readonly number[]): number {
  const places = [...new Set(problem.steps.map((step) => step.place))]
  return sum(
    problem.worth.map((worth, k) => {
      const dark = places.map((place) => {
        const m = Math.max(...problem.steps.map((step, i) => (step.place === place ? s.share[i]![k]! : 0)))
        if (m === 0) return 1
        const on = W.filter((i) => problem.steps[i]!.place === place)
        const alone = on.filter((i) => problem.steps[i]!.nest === null).map((i) => s.share[i]![k]! / m)
        const names = [...new Set(on.map((i) => problem.steps[i]!.nest).filter((nest) => nest !== null))]
        const passes = names.map((name) =>
          Math.max(...on.filter((i) => problem.steps[i]!.nest === name).map((i) => s.share[i]![k]! / m)),
        )
        return 1 - m * (1 - product([...alone, ...passes].map((finds) => 1 - finds)))
      })
      return worth * (1 - product(dark))
    }),
  )
}

function got(problem: Problem, j: number, W: readonly number[], F: readonly number[]): number {
  const c = problem.steps[j]!.group
  const on = (set: readonly number[]) => set.filter((i) => problem.steps[i]!.group === c)
  const terms = problem.states.map((s) => {
    const likely = L(problem, s, c, W, F)
    const hit = product([...on(W).map((i) => s.own[i]!), ...on(F).map((i) => 1 - s.own[i]!)])
    return likely > 0 ? (belief(problem, s, W, F) * s.access[c]! * hit) / likely : 0
  })
  return sum(terms) / total(problem, W, F)
}

function destroyed(problem: Problem, j: number, W: readonly number[]): number {
  const { harm, destroys, coveredBy } = problem.steps[j]!
  const same = W.filter((i) => destroys !== null && problem.steps[i]!.destroys === destroys)
  const gone = Math.max(0, ...same.map((i) => problem.steps[i]!.harm))
  return Math.max(0, harm - gone) * (coveredBy.some((i) => W.includes(i)) ? problem.residue : 1)
}

function gone(problem: Problem, T: readonly number[]): number {
  if (T.length === 0) return 0
  return problem.elapsed(sum(T.map((i) => problem.steps[i]!.hands)), sum(T.map((i) => problem.steps[i]!.wait)))
}

function window(problem: Problem, j: number, T: readonly number[]): number {
  const c = problem.steps[j]!.group
  const now = sum(problem.states.map((s) => s.probability * s.access[c]! * s.own[j]!))
  const then = sum(
    problem.states.map((s) => s.probability * s.access[c]! * s.own[j]! * s.windows[j]!(gone(problem, T))),
  )
  return now === 0 ? 0 : Math.min(1, Math.max(0, then / now))
}

const late = (problem: Problem, j: number, T: readonly number[]) =>
  Math.max(0, 1 - (problem.latePerDay * gone(problem, [...T, j])) / (24 * 3600e3))
