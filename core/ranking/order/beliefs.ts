import { digitOf } from './histories'
import type { JointState, Problem } from './problem'

/** The steps by the copy that they read, copies without any left out. */
export function stepsByGroup({ steps }: Problem): number[][] {
  const groups = new Map<number, number[]>()
  for (const [index, { group }] of steps.entries()) {
    const before = groups.get(group)
    if (before) before.push(index)
    else groups.set(group, [index])
  }
  return [...groups.values()]
}

/**
 * How well one state explains what was seen of the steps of one copy: either it could be got at, and each of them worked
 * or failed by its own chance, or it could not, and all of them failed.
 */
export function likelihood(
  problem: Problem,
  state: JointState,
  members: readonly number[],
  worked: number,
  failed: number,
): number {
  const access = state.access[problem.steps[members[0]!]!.group]!
  let seen = access
  let hasWorked = false
  for (const index of members) {
    const bit = 1 << index
    if (worked & bit) {
      seen *= state.own[index]!
      hasWorked = true
    } else if (failed & bit) seen *= 1 - state.own[index]!
  }
  return hasWorked ? seen : 1 - access + seen
}

/** The chance that a copy can be got at, given what was seen of its steps in one state. */
export function gotAt(
  problem: Problem,
  state: JointState,
  members: readonly number[],
  worked: number,
  failed: number,
): number {
  if (members.some((index) => worked & (1 << index))) return 1
  const either = likelihood(problem, state, members, 0, failed)
  const out = 1 - state.access[problem.steps[members[0]!]!.group]!
  return either > 0 ? (either - out) / either : 0
}

/**
 * By step: the chance that it works, where it tells nothing of the rest and brings nothing, as most preparations do: it is
 * alone on its copy, works alike in all states, and has no share of any slice. Null for the others.
 */
function plainChances(problem: Problem): (number | null)[] {
  const { steps, states } = problem
  const isAlone = steps.map(({ group }) => steps.filter((other) => other.group === group).length === 1)
  return steps.map(({ group }, step) => {
    if (!isAlone[step] || states.some((state) => state.share[step]!.some((share) => share > 0))) return null
    const [first] = states
    const isAlike = states.every(
      (state) => state.access[group] === first!.access[group] && state.own[step] === first!.own[step],
    )
    return isAlike ? first!.access[group]! * first!.own[step]! : null
  })
}

/**
 * The beliefs after everything that can be seen: of each step that it worked, that it failed, or nothing. Histories are
 * numbers in base 3, a digit for each step that tells anything: 0 not tried (or void, which teaches nothing), 1 worked,
 * 2 failed.
 */
export interface Beliefs {
  /** by step: the chance that it works, where it tells nothing; null for the others */
  readonly plain: readonly (number | null)[]
  /** by step: what its digit counts; 0 for a step that tells nothing, which has none */
  readonly places: readonly number[]
  /** unscaled weights of the states, one history's after the other's */
  readonly weights: Float64Array
  /** by history: the sum over the states */
  readonly whole: Float64Array
  /** by history: the set of the steps that worked */
  readonly worked: Int32Array
}

/** All beliefs of a problem, copy by copy: 3^n histories of as many weights as there are states. */
export function beliefsOf(problem: Problem): Beliefs {
  const plain = plainChances(problem)
  const { states, steps } = problem
  const count = states.length
  const places = steps.map(() => 0)
  let histories = 1
  let weights = Float64Array.from(states, ({ probability }) => probability)
  for (const members of stepsByGroup(problem)) {
    if (plain[members[0]!] !== null) continue
    for (const [at, index] of members.entries()) places[index] = histories * 3 ** at
    const seen = seenOn(problem, members)
    const next = new Float64Array(weights.length * (seen.length / count))
    for (let own = 0, at = 0; own < seen.length; own += count)
      for (let before = 0; before < weights.length; before += count)
        for (let state = 0; state < count; state++, at++) next[at] = weights[before + state]! * seen[own + state]!
    weights = next
    histories *= 3 ** members.length
  }
  const whole = new Float64Array(histories)
  for (let history = 0, at = 0; history < histories; history++) {
    let sum = 0
    for (let state = 0; state < count; state++, at++) sum += weights[at]!
    whole[history] = sum
  }
  const worked = new Int32Array(histories)
  for (const [step, place] of places.entries())
    for (let history = 0; history < histories; history++)
      if (digitOf(history, place) === 1) worked[history] = worked[history]! | (1 << step)
  return { plain, places, weights, whole, worked }
}

/** The likelihoods of everything that can be seen of one copy's steps, in all states. */
function seenOn(problem: Problem, members: readonly number[]): Float64Array {
  const { seen, hasWorked, out } = seenIfGot(problem, members)
  const count = problem.states.length
  for (let history = 0, at = 0; history < hasWorked.length; history++)
    for (let state = 0; state < count; state++, at++) if (!hasWorked[history]) seen[at] = seen[at]! + out[state]!
  return seen
}

/** The chance that the copy of these steps can be got at, after everything that can be seen of them, in all states. */
export function gotOn(problem: Problem, members: readonly number[]): Float64Array {
  const { seen, hasWorked, out } = seenIfGot(problem, members)
  const count = problem.states.length
  return seen.map((both, at) => {
    const either = both + out[at % count]!
    return hasWorked[Math.floor(at / count)] ? 1 : either > 0 ? both / either : 0
  })
}

/**
 * The chance of getting at the copy and seeing each of these histories then, one history's states after the other's;
 * which histories have a step that worked; and by state the chance that the copy cannot be got at.
 */
function seenIfGot({ steps, states }: Problem, members: readonly number[]) {
  const count = states.length
  const seen = new Float64Array(3 ** members.length * count)
  const hasWorked = new Uint8Array(3 ** members.length)
  const access = states.map((state) => state.access[steps[members[0]!]!.group]!)
  seen.set(access)
  let histories = 1
  for (const index of members) {
    const own = states.map((state) => state.own[index]!)
    const block = histories * count
    hasWorked.fill(1, histories, 2 * histories)
    hasWorked.copyWithin(2 * histories, 0, histories)
    for (let at = 0; at < block; at++) {
      const works = own[at % count]!
      seen[block + at] = seen[at]! * works
      seen[2 * block + at] = seen[at]! * (1 - works)
    }
    histories *= 3
  }
  return { seen, hasWorked, out: access.map((chance) => 1 - chance) }
}
