import { DAY_MS } from '../../cases/shape/moment'
import { keptBy, keptWith } from '../situation/kept-by'
import { STEADY, type Problem, type Step } from './problem'

/** What the time that passes does to steps, by the set of those that were tried before. */
export interface Times {
  /** ms from now until all of a set was tried and answered */
  readonly gone: (tried: number) => number
  /** the chance that a step is not void once a set was tried: what its window and what others spoilt leave of it */
  readonly open: (step: number, tried: number) => number
  /** what is left of a step's window after so many ms, as a share of now's */
  readonly left: (step: number, elapsedMs: number) => number
  /** what is left of the worth of a step's answer when it comes that late */
  readonly inTime: (step: number, tried: number) => number
}

/**
 * Times and their effects for one problem, each worked out once. A window falls by the prior, with one number for all
 * states: what came back tells nothing about how fast it closes.
 */
export const timesOf = keptWith((problem: Problem): Times => {
  const { steps, states, latePerDay } = problem
  const gone = keptBy((tried: number) => {
    const done = steps.filter((_, index) => tried & (1 << index))
    const sum = (of: (step: Step) => number) => done.reduce((so, step) => so + of(step), 0)
    return tried === 0
      ? 0
      : problem.elapsed(
          sum(({ hands }) => hands),
          sum(({ wait }) => wait),
        )
  })
  const windows = steps.map((_, index) => windowsOf(problem, index))
  const prior = steps.map(({ group }, index) =>
    states.reduce((sum, state) => sum + state.probability * state.access[group]! * state.own[index]!, 0),
  )
  const left = windows.map((of, step) =>
    keptBy((elapsed: number) => {
      const sum = of.reduce((so, { window, weight }) => so + weight * window(elapsed), 0)
      return Math.min(1, Math.max(0, sum / prior[step]!))
    }),
  )
  const isSteady = windows.map((of) => of.every(({ window }) => window === STEADY))
  return {
    gone,
    left: (step, elapsedMs) => (prior[step]! > 0 && !isSteady[step] ? left[step]!(elapsedMs) : 1),
    open: (step, tried) => {
      if (prior[step]! <= 0) return 0
      let open = tried === 0 || isSteady[step] ? 1 : left[step]!(gone(tried))
      for (const [other, { leaves }] of steps.entries()) if (tried & (1 << other)) open *= leaves[step]!
      return open
    },
    inTime: (step, tried) => Math.max(0, 1 - (latePerDay * gone(tried | (1 << step))) / DAY_MS),
  }
})

/** The distinct windows of a step, each with the prior chance of working in the states that have it. */
function windowsOf({ steps, states }: Problem, step: number) {
  const weights = new Map<Problem['states'][number]['windows'][number], number>()
  for (const state of states) {
    const window = state.windows[step]!
    const works = state.probability * state.access[steps[step]!.group]! * state.own[step]!
    weights.set(window, (weights.get(window) ?? 0) + works)
  }
  return [...weights].map(([window, weight]) => ({ window, weight }))
}
