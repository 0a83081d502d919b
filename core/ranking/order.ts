import { fullness, MOST_STEPS, type JointState, type Order, type Problem } from './problem'

/** Below this, in money, a difference is rounding, not a reason. */
const EPSILON = 1e-10

/**
 * The best sequence and stopping point of the problem, exactly, by dynamic programming over the subsets
 * of steps already tried (Held and Karp's method): every term of the objective depends on the set tried
 * before, never on its order. Throws a RangeError above 14 steps.
 */
export function bestOrder(problem: Problem): Order {
  const count = problem.steps.length
  if (count > MOST_STEPS) throw new RangeError(`${count} steps are more than ${MOST_STEPS}`)
  const subsets = 1 << count
  const values = problem.states.map((state) => subsetValues(problem, state))
  const missing = chancesOfMissing(problem)
  const busy = busyMinutes(problem)
  const best = new Float64Array(subsets)
  const choice = new Int8Array(subsets).fill(-1)
  for (let tried = subsets - 1; tried >= 0; tried--) {
    let ownOfChosen = 0
    for (let step = 0; step < count; step++) {
      const bit = 1 << step
      if (tried & bit || !problem.steps[step]!.requires.every((other) => tried & (1 << other))) continue
      const own = stepWorth(problem, values, missing, busy, tried, step)
      const worth = own + best[tried | bit]!
      // Of orders that are worth the same, the one that gains sooner is done first.
      const isBetter = worth > best[tried]! + EPSILON
      const isTie = choice[tried]! >= 0 && worth > best[tried]! - EPSILON && own > ownOfChosen + EPSILON
      if (!isBetter && !isTie) continue
      best[tried] = Math.max(best[tried]!, worth)
      choice[tried] = step
      ownOfChosen = own
    }
  }
  const steps: number[] = []
  for (let tried = 0; choice[tried]! >= 0; tried |= 1 << steps.at(-1)!) steps.push(choice[tried]!)
  return { steps, value: best[0]! }
}

/** What one more step is worth after a set of others: its gain, less its price, less its harm; in money. */
export function stepGain(
  problem: Problem,
  tried: readonly number[],
  step: number,
): { gain: number; price: number; harm: number } {
  const set = tried.reduce((so, other) => so | (1 << other), 0)
  const values = problem.states.map((state) => (subset: number) => valueOf(problem, state, subset))
  return parts(problem, values, missingAfter(problem, set), busyOf(problem, set), set, step)
}

function stepWorth(
  problem: Problem,
  values: readonly Float64Array[],
  missing: Float64Array,
  busy: Float64Array,
  tried: number,
  step: number,
): number {
  const lookups = values.map((table) => (subset: number) => table[subset]!)
  const { gain, price, harm } = parts(problem, lookups, missing[tried]!, busy[tried]!, tried, step)
  return gain - price - harm
}

function parts(
  problem: Problem,
  values: readonly ((subset: number) => number)[],
  missing: number,
  busy: number,
  tried: number,
  index: number,
) {
  const step = problem.steps[index]!
  let unspoilt = 1
  for (let other = 0; other < problem.steps.length; other++)
    if (tried & (1 << other)) unspoilt *= problem.steps[other]!.leaves[index]!
  let gain = 0
  let shown = 0
  for (const [at, state] of problem.states.entries()) {
    const more = values[at]!(tried | (1 << index)) - values[at]!(tried)
    gain += state.probability * state.windowLeft(index, busy) * unspoilt * more
    shown += state.probability * state.access[step.group]! * state.own[index]!
  }
  const isCovered = step.coveredBy.some((other) => tried & (1 << other))
  return { gain, price: missing * (step.cost + shown * step.take), harm: isCovered ? 0 : step.harm }
}

/**
 * Value in money of every subset of steps, as if all of them had been tried. Each copy's part is worked
 * out once for every subset of its own steps, so that the whole takes 2^n × copies × slices.
 */
function subsetValues(problem: Problem, state: JointState): Float64Array {
  const slices = problem.worth.length
  const table = new Float64Array(1 << problem.steps.length)
  const groups = membersByGroup(problem).map((members) => ({ members, dark: darkTable(problem, state, members) }))
  const dark = new Float64Array(slices)
  for (let subset = 1; subset < table.length; subset++) {
    dark.fill(1)
    for (const group of groups) {
      const offset = within(subset, group.members) * slices
      if (offset === 0) continue
      for (let slice = 0; slice < slices; slice++) dark[slice] = dark[slice]! * group.dark[offset + slice]!
    }
    let value = 0
    for (let slice = 0; slice < slices; slice++) value += problem.worth[slice]! * (1 - dark[slice]!)
    table[subset] = value
  }
  return table
}

function membersByGroup(problem: Problem): number[][] {
  return Array.from({ length: problem.groups }, (_, group) =>
    problem.steps.flatMap((step, index) => (step.group === group ? [index] : [])),
  ).filter((members) => members.length > 0)
}

/** Which of the members are in the subset, as a subset of the members alone. */
function within(subset: number, members: readonly number[]): number {
  let inner = 0
  for (let place = 0; place < members.length; place++) if (subset & (1 << members[place]!)) inner |= 1 << place
  return inner
}

/** What stays dark by slice for every subset of one copy's steps, one after the other. */
function darkTable(problem: Problem, state: JointState, members: readonly number[]): Float64Array {
  const slices = problem.worth.length
  const access = state.access[problem.steps[members[0]!]!.group]!
  const table = new Float64Array((1 << members.length) * slices)
  for (let inner = 0; inner < 1 << members.length; inner++) {
    const nests = nestsOf(
      problem,
      members.filter((_, place) => inner & (1 << place)),
    )
    for (let slice = 0; slice < slices; slice++)
      table[inner * slices + slice] = 1 - access * (1 - missedBy(problem, state, nests, slice))
  }
  return table
}

function missedBy(problem: Problem, state: JointState, nests: readonly number[][], slice: number): number {
  let missed = 1
  for (const nest of nests) {
    let largest = 0
    for (const index of nest) largest = Math.max(largest, state.own[index]! * problem.steps[index]!.share[slice]!)
    missed *= 1 - largest
  }
  return missed
}

function valueOf(problem: Problem, state: JointState, subset: number): number {
  const reached = reachedBy(problem, state, subset)
  return problem.worth.reduce((sum, worth, slice) => sum + worth * reached[slice]!, 0)
}

/**
 * reached(S) by slice: routes on different copies are independent, routes on one copy share its access,
 * and of nested passes only the larger counts.
 */
export function reachedBy(problem: Problem, state: JointState, subset: number): Float64Array {
  const slices = problem.worth.length
  const dark = new Float64Array(slices).fill(1)
  for (let group = 0; group < problem.groups; group++) {
    const members = problem.steps.flatMap((step, index) =>
      step.group === group && subset & (1 << index) ? [index] : [],
    )
    if (members.length === 0) continue
    const nests = nestsOf(problem, members)
    for (let slice = 0; slice < slices; slice++)
      dark[slice] = dark[slice]! * (1 - state.access[group]! * (1 - missedBy(problem, state, nests, slice)))
  }
  return dark.map((value) => 1 - value)
}

function nestsOf(problem: Problem, members: readonly number[]): number[][] {
  const nests = new Map<string, number[]>()
  for (const index of members) {
    const key = problem.steps[index]!.nest ?? `#${index}`
    nests.set(key, [...(nests.get(key) ?? []), index])
  }
  return [...nests.values()]
}

function chancesOfMissing(problem: Problem): Float64Array {
  const table = new Float64Array(1 << problem.steps.length)
  for (const state of problem.states) {
    const left = new Float64Array(table.length).fill(1)
    for (let subset = 1; subset < left.length; subset++) {
      const last = 31 - Math.clz32(subset)
      left[subset] = left[subset ^ (1 << last)]! * (1 - endsWith(problem, state, last))
    }
    for (let subset = 0; subset < table.length; subset++)
      table[subset] = table[subset]! + state.probability * left[subset]!
  }
  return table
}

function missingAfter(problem: Problem, tried: number): number {
  return problem.states.reduce((sum, state) => {
    const left = problem.steps.reduce(
      (so, _, index) => (tried & (1 << index) ? so * (1 - endsWith(problem, state, index)) : so),
      1,
    )
    return sum + state.probability * left
  }, 0)
}

function endsWith(problem: Problem, state: JointState, index: number): number {
  const step = problem.steps[index]!
  return state.access[step.group]! * state.own[index]! * fullness(step, problem.items)
}

function busyMinutes(problem: Problem): Float64Array {
  const table = new Float64Array(1 << problem.steps.length)
  for (let subset = 1; subset < table.length; subset++) {
    const last = 31 - Math.clz32(subset)
    table[subset] = table[subset ^ (1 << last)]! + problem.steps[last]!.busy
  }
  return table
}

function busyOf(problem: Problem, tried: number): number {
  return problem.steps.reduce((sum, step, index) => (tried & (1 << index) ? sum + step.busy : sum), 0)
}
