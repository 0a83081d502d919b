/**
 * The problem of what to try, without cases and words: steps with their costs and effects on each other, and in every
 * joint state of the unknowns their chances, shares and windows.
 */
export interface Step {
  readonly id: string
  /** which copy it reads: steps of one group share that copy's access; a preparation is a group of its own */
  readonly group: number
  /** what it reads there (a medium's free area, one bin, one backup): steps of one place share what is there to be found */
  readonly place: string
  /** passes over the same medium, of which only the larger counts; null for a step of its own */
  readonly nest: string | null
  /** in money, due on every try: hands-on minutes, waits that keep room at the bench, and what looking costs */
  readonly cost: number
  /** in money: what looking costs, which is part of the cost */
  readonly look: number
  /** in money, due only once the items were seen */
  readonly take: number
  /** in money: the worth of what it destroys; due where it is carried out */
  readonly harm: number
  /** what it writes over; null where it destroys nothing */
  readonly destroys: string | null
  /** the steps that leave only the residue of its harm once they have worked */
  readonly coveredBy: readonly number[]
  /** the steps that have to have worked before it */
  readonly requires: readonly number[]
  /** hands-on minutes, which pass in opening hours only */
  readonly hands: number
  /** mean minutes of waiting until its answer is there, which pass round the clock */
  readonly wait: number
  /** whether only the use of what is in hand closes it, which a hold stops */
  readonly closesByUse: boolean
  /** whether others can be tried while its answer is on its way */
  readonly answersLater: boolean
  /** what is left of the step at each other position once this one was tried: 1 − spoil, 0 to 1 */
  readonly leaves: readonly number[]
}

/** What is left of a window when a step is begun so many ms from now, as a share of now's. */
export type WindowLeft = (elapsedMs: number) => number

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
  readonly states: readonly JointState[]
  /** ms that pass from now while so many hands-on minutes and so many minutes of waiting are spent */
  readonly elapsed: (hands: number, wait: number) => number
  /** what a day's delay takes off the worth of an answer, as a share of it */
  readonly latePerDay: number
  /** the part of a harm that is left with a good safety copy */
  readonly residue: number
  /** in money: plans that differ by less are equal at their first step */
  readonly tie: number
}

/** The most steps that are solved exactly, preparations counted. */
export const MAX_EXACT = 8

/** The most steps that are compared at all; the others of a longer list are left aside. */
export const MAX_STEPS = 14

/** The problem as it would be if one of these states held, their chances made to add up to 1. */
export function givenStates(problem: Problem, states: readonly JointState[]): Problem {
  const whole = states.reduce((sum, state) => sum + state.probability, 0)
  return { ...problem, states: states.map((state) => ({ ...state, probability: state.probability / whole })) }
}

/** The problem with some of its steps alone, in this order; the problem itself where that is all of them. */
export function withOnly(problem: Problem, kept: readonly number[]): Problem {
  if (kept.length === problem.steps.length && kept.every((index, place) => index === place)) return problem
  const places = new Map(kept.map((index, place) => [index, place]))
  const moved = (positions: readonly number[]) => positions.flatMap((position) => places.get(position) ?? [])
  return {
    ...problem,
    steps: kept.map((index) => {
      const step = problem.steps[index]!
      return {
        ...step,
        coveredBy: moved(step.coveredBy),
        requires: moved(step.requires),
        leaves: kept.map((other) => step.leaves[other]!),
      }
    }),
    states: problem.states.map((state) => ({
      ...state,
      own: kept.map((index) => state.own[index]!),
      share: kept.map((index) => state.share[index]!),
      windows: kept.map((index) => state.windows[index]!),
    })),
  }
}
