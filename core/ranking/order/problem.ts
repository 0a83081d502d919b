/**
 * The problem of ordering, without cases and words: steps with their costs and effects on each other, and in every
 * joint state of the unknowns their chances, shares and windows.
 */
export interface Step {
  readonly id: string
  /** which copy it reads: steps of one group share that copy's access */
  readonly group: number
  /** passes over the same medium, of which only the larger counts; null for a step of its own */
  readonly nest: string | null
  /** in money, due whether it works or not: minutes and what looking costs */
  readonly cost: number
  /** in money, due only once the items were seen */
  readonly take: number
  /** in money, unless a step in `coveredBy` was done before */
  readonly harm: number
  readonly coveredBy: readonly number[]
  /** positions of the steps that have to come before it */
  readonly requires: readonly number[]
  /** whole minutes for which it keeps the technician or the device busy */
  readonly busy: number
  /** what is left of the step at each other position once this one is done: 1 − spoil, 0 to 1 */
  readonly leaves: readonly number[]
}

/** What is left of a window when a step is begun so many busy minutes from now, as a share of now's. */
export type WindowLeft = (busyMinutes: number) => number

/** A window that does not close while others are tried. */
export const STEADY: WindowLeft = () => 1

/** One way in which everything that is unknown may be. */
export interface JointState {
  readonly probability: number
  /** by group */
  readonly access: readonly number[]
  /** by step: the window and the working of it, without the group's access, when begun now */
  readonly own: readonly number[]
  /** by step: the share by slice, over all wanted sets one after the other, 0 to 1 */
  readonly share: readonly (readonly number[])[]
  /** by step; states that have a window in common share the function */
  readonly windows: readonly WindowLeft[]
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
export const MAX_STEPS = 14

/** From this share of everything on some clients stop, and from that one on all of them do. */
export const ENOUGH = { forSome: 0.7, forAll: 0.98 }

/**
 * How far one success of a step with these shares ends the search. With fewer than 5 items wanted it is the
 * least share over all slices; with more it grows from 0 where 70 % came back to 1 at 98 %: who has nearly
 * everything back often lets the rest be (docs/decisions/0009).
 */
export function fullness(share: readonly number[], items: number): number {
  let least = share.length > 0 ? 1 : 0
  for (const part of share) if (part < least) least = part
  if (items < 5) return least
  return Math.min(1, Math.max(0, (least - ENOUGH.forSome) / (ENOUGH.forAll - ENOUGH.forSome)))
}

/** The problem as it would be if one of these states held, their chances made to add up to 1. */
export function givenStates(problem: Problem, states: readonly JointState[]): Problem {
  const whole = states.reduce((sum, state) => sum + state.probability, 0)
  return { ...problem, states: states.map((state) => ({ ...state, probability: state.probability / whole })) }
}
