/**
 * What the order is sought in, freed of cases and words: steps with their chances, shares, costs and
 * effects on each other, in one or more joint states of what is unknown.
 */
export interface Step {
  readonly id: string
  /** which copy it reads: steps of one group share that copy's access */
  readonly group: number
  /** passes over the same medium, of which only the larger counts; null for a step of its own */
  readonly nest: string | null
  /** share by slice, over all wanted sets one after the other, 0 to 1 */
  readonly share: readonly number[]
  /** in money, due whether it works or not: minutes and what looking costs */
  readonly cost: number
  /** in money, due only when the look has shown the items */
  readonly take: number
  /** in money, unless a step in `coveredBy` was done before */
  readonly harm: number
  readonly coveredBy: readonly number[]
  /** positions of the steps that have to come before it */
  readonly requires: readonly number[]
  /** minutes for which it keeps the technician or the device busy */
  readonly busy: number
  /** what is left of the step at each other position once this one is done: 1 − spoil, 0 to 1 */
  readonly leaves: readonly number[]
}

export interface JointState {
  readonly probability: number
  /** by group */
  readonly access: readonly number[]
  /** by step: the window and the working of it, without the group's access, when begun now */
  readonly own: readonly number[]
  /** by step: what is left of its window when begun so many busy minutes from now, as a share of now's */
  readonly windowLeft: (step: number, busyMinutes: number) => number
}

export interface Problem {
  readonly steps: readonly Step[]
  readonly groups: number
  /** worth in money of what is missing in each slice */
  readonly worth: readonly number[]
  /** number of items wanted and missing in all; below 5 a single success can be everything */
  readonly items: number
  readonly states: readonly JointState[]
}

export interface Order {
  /** positions of the steps to try, up to the stopping point */
  readonly steps: readonly number[]
  /** sum of gain − Q × cost − harm over them, in money */
  readonly value: number
}

/** The most steps that are ordered exactly; 2^14 subsets. */
export const MOST_STEPS = 14

/**
 * How far one success of the step ends the search: with few items wanted, the least share over all
 * slices; with many, everything or nothing (98 % counts as everything).
 */
export function fullness(step: Step, items: number): number {
  const least = Math.min(...(step.share.length > 0 ? step.share : [0]))
  if (items < 5) return least
  return least >= 0.98 ? 1 : 0
}
