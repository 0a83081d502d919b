import { keptBy, keptWith } from '../situation/kept-by'
import { MAX_EXACT, type JointState, type Problem } from './problem'

/** The steps by what they read, and within it by pass: of passes over one medium only the larger counts. */
function nestsByPlace({ steps }: Problem, subset: number): number[][][] {
  const places = new Map<string, Map<string, number[]>>()
  for (const [index, { place, nest }] of steps.entries()) {
    if (!(subset & (1 << index))) continue
    const nests = places.get(place) ?? new Map<string, number[]>()
    places.set(place, nests)
    const key = nest ?? `#${index}`
    nests.set(key, [...(nests.get(key) ?? []), index])
  }
  return [...places.values()].map((nests) => [...nests.values()])
}

/** By place: its steps, also as a set, and what each set of them leaves dark, one state's slices after the other's. */
const placesOf = keptWith((problem: Problem) => {
  const { states, worth } = problem
  return nestsByPlace(problem, (1 << problem.steps.length) - 1).map((whole) => {
    const members = whole.flat()
    const darkAfter = keptBy((subset: number) => {
      const nests = nestsByPlace(problem, subset)[0]!
      const dark = new Float64Array(states.length * worth.length)
      for (const [at, state] of states.entries())
        dark.set(leftDark(state, nests, members, worth.length), at * worth.length)
      return dark
    })
    return { members, set: members.reduce((so, index) => so | (1 << index), 0), darkAfter }
  })
})

/**
 * The share of each slice that a set of steps has brought, all of which worked, in the state at a position. Places are
 * independent; steps of one place share what is there: it has the largest of their shares, and each finds its part of that.
 */
export function broughtBy(problem: Problem, at: number, worked: number): Float64Array {
  const slices = problem.worth.length
  const dark = new Float64Array(slices).fill(1)
  for (const { set, darkAfter } of placesOf(problem)) {
    if (!(worked & set)) continue
    const left = darkAfter(worked & set)
    for (let slice = 0; slice < slices; slice++) dark[slice] = dark[slice]! * left[at * slices + slice]!
  }
  for (let slice = 0; slice < slices; slice++) dark[slice] = 1 - dark[slice]!
  return dark
}

/** What the steps of one place leave dark, by slice; `all` are those that read it, tried or not. */
function leftDark(state: JointState, nests: readonly number[][], all: readonly number[], slices: number): Float64Array {
  const left = new Float64Array(slices)
  for (let slice = 0; slice < slices; slice++) {
    let there = 0
    for (const index of all) there = Math.max(there, state.share[index]![slice]!)
    let missed = 1
    if (there > 0)
      for (const nest of nests) {
        let found = 0
        for (const index of nest) found = Math.max(found, state.share[index]![slice]!)
        missed *= 1 - found / there
      }
    left[slice] = 1 - there * (1 - missed)
  }
  return left
}

/** The worth in money of what a set of steps has brought, all of which worked, by state; each set is worked out once. */
export const worthsOf = keptWith((problem: Problem): ((worked: number) => Float64Array) => {
  const count = problem.states.length
  const table = problem.steps.length <= MAX_EXACT ? worthBySubset(problem) : null
  return keptBy((worked: number) => {
    if (table) return table.subarray(worked * count, (worked + 1) * count)
    const worths = new Float64Array(count)
    for (let at = 0; at < count; at++) {
      const brought = broughtBy(problem, at, worked)
      let sum = 0
      for (let slice = 0; slice < brought.length; slice++) sum += problem.worth[slice]! * brought[slice]!
      worths[at] = sum
    }
    return worths
  })
})

/**
 * The worth in money of what every set of steps has brought, in every state: one set's figures after the other's. What
 * is dark is a product over the places, so it is multiplied out place by place.
 */
export function worthBySubset(problem: Problem): Float64Array {
  const { steps, states } = problem
  const table = new Float64Array(states.length << steps.length)
  const places = placesOf(problem).map(({ members, darkAfter }) => ({ darkAfter, subsets: subsetsOf(members) }))
  const masks = places.reduce<number[]>(
    (so, { subsets }) => subsets.flatMap((mask) => so.map((before) => before | mask)),
    [0],
  )
  const worth = Float64Array.from(problem.worth)
  const whole = worth.reduce((sum, one) => sum + one, 0)
  const slices = worth.length
  const dark = new Float64Array(masks.length * slices)
  for (let at = 0; at < states.length; at++) {
    dark.set(worth)
    let filled = slices
    for (const { subsets, darkAfter } of places) {
      let to = filled
      for (const subset of subsets.slice(1)) {
        const left = darkAfter(subset)
        for (let from = 0; from < filled; from += slices)
          for (let slice = 0; slice < slices; slice++, to++) dark[to] = dark[from + slice]! * left[at * slices + slice]!
      }
      filled = to
    }
    for (const [row, mask] of masks.entries()) {
      let sum = whole
      for (let slice = row * slices; slice < (row + 1) * slices; slice++) sum -= dark[slice]!
      table[mask * states.length + at] = sum
    }
  }
  return table
}

/** The sets of these steps, counted in binary, as sets among all steps. */
function subsetsOf(members: readonly number[]): number[] {
  return members.reduce<number[]>((so, index) => [...so, ...so.map((mask) => mask | (1 << index))], [0])
}
