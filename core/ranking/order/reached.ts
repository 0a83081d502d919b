import type { JointState, Problem } from './problem'

/**
 * reached(S) by slice in one state: routes on different copies are independent, routes on one copy share
 * its access, and of nested passes only the larger counts.
 */
export function reachedBy(problem: Problem, state: JointState, subset: number): Float64Array {
  const dark = new Float64Array(problem.worth.length).fill(1)
  for (const members of membersByGroup(problem, subset)) {
    const left = leftDark(problem, state, members)
    for (let slice = 0; slice < dark.length; slice++) dark[slice] = dark[slice]! * left[slice]!
  }
  return dark.map((value) => 1 - value)
}

/** The steps of a subset by the copy that they read; copies without any are left out. */
export function membersByGroup(problem: Problem, subset: number): number[][] {
  const groups: number[][] = Array.from({ length: problem.groups }, () => [])
  for (const [index, step] of problem.steps.entries()) if (subset & (1 << index)) groups[step.group]!.push(index)
  return groups.filter((members) => members.length > 0)
}

/** What one copy's steps leave dark, by slice. */
export function leftDark(problem: Problem, state: JointState, members: readonly number[]): Float64Array {
  const slices = problem.worth.length
  const missed = new Float64Array(slices).fill(1)
  for (const nest of nestsOf(problem, members)) {
    for (let slice = 0; slice < slices; slice++) {
      let largest = 0
      for (const index of nest) {
        const reach = state.own[index]! * state.share[index]![slice]!
        if (reach > largest) largest = reach
      }
      missed[slice] = missed[slice]! * (1 - largest)
    }
  }
  const access = members.length > 0 ? state.access[problem.steps[members[0]!]!.group]! : 0
  for (let slice = 0; slice < slices; slice++) missed[slice] = 1 - access * (1 - missed[slice]!)
  return missed
}

/** The steps of one copy by nest; a step of its own is a nest of one. */
export function nestsOf(problem: Problem, members: readonly number[]): number[][] {
  const nests = new Map<string, number[]>()
  for (const index of members) {
    const key = problem.steps[index]!.nest ?? `#${index}`
    const nest = nests.get(key)
    if (nest) nest.push(index)
    else nests.set(key, [index])
  }
  return [...nests.values()]
}
