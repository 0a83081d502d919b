import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bestOrder, stepGain } from './order'
import { bestByTryingAll } from './order.brute-force'
import { givenStates, STEADY, type JointState, type Problem, type Step } from './problem'
import { reachedBy } from './reached'

/** Evenly spread figures, in thousandths: a double of all its forms would nearly always be next to 0. */
const real = (min: number, max: number) =>
  fc.integer({ min: min * 1000, max: max * 1000 }).map((thousandths) => thousandths / 1000)
const unit = real(0, 1)

/** Problems of up to `most` steps with shared access, nested passes, spoil, windows, prerequisites and harm. */
function problems(most: number): fc.Arbitrary<Problem> {
  return fc
    .record({
      count: fc.integer({ min: 1, max: most }),
      groups: fc.integer({ min: 1, max: 4 }),
      slices: fc.integer({ min: 1, max: 4 }),
      states: fc.integer({ min: 1, max: 3 }),
      items: fc.constantFrom(1, 3, 300),
    })
    .chain(({ count, groups, slices, states, items }) => {
      const step = (index: number): fc.Arbitrary<Step> =>
        fc.record({
          id: fc.constant(`s${index}`),
          group: fc.integer({ min: 0, max: groups - 1 }),
          nest: fc.constantFrom(null, null, 'pass'),
          cost: real(0, 60),
          take: fc.constantFrom(0, 0, 40),
          harm: fc.constantFrom(0, 0, 0, 25, 120),
          coveredBy: fc.constant([]),
          requires:
            index > 0
              ? fc.oneof(
                  { weight: 2, arbitrary: fc.constant([]) },
                  { weight: 1, arbitrary: fc.integer({ min: 0, max: index - 1 }).map((one) => [one]) },
                )
              : fc.constant([]),
          busy: fc.integer({ min: 0, max: 240 }),
          leaves: fc.array(fc.constantFrom(1, 1, 1, 0.5, 0), { minLength: count, maxLength: count }),
        })
      return fc
        .record({
          steps: fc.tuple(...Array.from({ length: count }, (_, index) => step(index))),
          worth: fc.array(real(0, 200), { minLength: slices, maxLength: slices }),
          states: fc.array(
            fc.record({
              weight: real(0.1, 1),
              access: fc.array(unit, { minLength: groups, maxLength: groups }),
              own: fc.array(unit, { minLength: count, maxLength: count }),
              share: fc.array(
                fc.array(fc.oneof(unit, fc.constantFrom(0, 1)), { minLength: slices, maxLength: slices }),
                { minLength: count, maxLength: count },
              ),
              fade: fc.array(fc.constantFrom(0, 0, 0.001, 0.01), { minLength: count, maxLength: count }),
            }),
            { minLength: states, maxLength: states },
          ),
        })
        .map(({ steps, worth, states: raw }) => {
          const whole = raw.reduce((sum, state) => sum + state.weight, 0)
          // A step that has a prerequisite is also the one whose harm it takes away.
          const covered = steps.map((one) => ({ ...one, coveredBy: one.requires }))
          return {
            steps: covered,
            groups,
            worth,
            items,
            states: raw.map((state): JointState => ({
              probability: state.weight / whole,
              access: state.access,
              own: state.own,
              share: state.share,
              windows: state.fade.map((fade) => (busy) => Math.max(0, 1 - fade * busy)),
            })),
          }
        })
    })
}

describe('the order', () => {
  it('equals the best of all orders and stopping points', () => {
    fc.assert(
      fc.property(problems(6), (problem) => {
        expect(bestOrder(problem).value).toBeCloseTo(bestByTryingAll(problem).value, 9)
      }),
      { numRuns: 600 },
    )
  })

  it('is worth what its steps are worth one after the other', () => {
    fc.assert(
      fc.property(problems(7), (problem) => {
        const { steps, value } = bestOrder(problem)
        const sum = steps.reduce((so, step, turn) => {
          const { gain, price, harm } = stepGain(problem, steps.slice(0, turn), step)
          return so + gain - price - harm
        }, 0)
        expect(sum).toBeCloseTo(value, 9)
      }),
      { numRuns: 200 },
    )
  })

  it('falls back to descending chance over cost where steps are independent, complete, harmless and open', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.record({
            chance: real(0.05, 0.95),
            cost: real(1, 20),
          }),
          { minLength: 2, maxLength: 7 },
        ),
        (raw) => {
          const problem = independent(raw)
          const ratio = bestOrder(problem).steps.map((step) => raw[step]!.chance / raw[step]!.cost)
          for (let turn = 1; turn < ratio.length; turn++)
            expect(ratio[turn]!).toBeLessThanOrEqual(ratio[turn - 1]! + 1e-9)
        },
      ),
      { numRuns: 200 },
    )
  })

  it('never puts a step before its prerequisite', () => {
    let checked = 0
    fc.assert(
      fc.property(problems(7), (problem) => {
        const { steps } = bestOrder(problem)
        for (const [turn, step] of steps.entries())
          for (const needed of problem.steps[step]!.requires) {
            checked++
            expect(steps.slice(0, turn)).toContain(needed)
          }
      }),
      { numRuns: 1000, seed: 1127 },
    )
    expect(checked).toBeGreaterThan(10)
  })

  it('reaches no more than the sum and no less than the largest part', () => {
    fc.assert(
      fc.property(problems(7), (problem) => {
        const state = problem.states[0]!
        const all = (1 << problem.steps.length) - 1
        const together = reachedBy(problem, state, all)
        problem.worth.forEach((_, slice) => {
          const alone = problem.steps.map(
            (step, index) => state.access[step.group]! * state.own[index]! * state.share[index]![slice]!,
          )
          expect(together[slice]!).toBeLessThanOrEqual(alone.reduce((a, b) => a + b, 0) + 1e-9)
          expect(together[slice]!).toBeGreaterThanOrEqual(Math.max(...alone) - 1e-9)
        })
      }),
      { numRuns: 200 },
    )
  })

  it('never loses by knowing in which state it is', () => {
    fc.assert(
      fc.property(problems(6), (problem) => {
        const informed = problem.states.reduce(
          (sum, state) => sum + state.probability * bestOrder(givenStates(problem, [state])).value,
          0,
        )
        expect(informed).toBeGreaterThanOrEqual(bestOrder(problem).value - 1e-9)
      }),
      { numRuns: 200 },
    )
  })

  it('refuses more steps than it can order exactly', () => {
    expect(() => bestOrder(independent(Array.from({ length: 15 }, () => ({ chance: 0.5, cost: 1 }))))).toThrow(
      RangeError,
    )
  })

  it('orders fourteen steps', () => {
    const { steps } = bestOrder(
      independent(Array.from({ length: 14 }, (_, index) => ({ chance: 0.3, cost: index + 1 }))),
    )
    expect(steps).toEqual([...steps].sort((one, other) => one - other))
  })
})

function independent(raw: readonly { chance: number; cost: number }[]): Problem {
  return {
    steps: raw.map(({ cost }, index) => ({
      id: `s${index}`,
      group: index,
      nest: null,
      cost,
      take: 0,
      harm: 0,
      coveredBy: [],
      requires: [],
      busy: 10,
      leaves: raw.map(() => 1),
    })),
    groups: raw.length,
    worth: [500],
    items: 1,
    states: [
      {
        probability: 1,
        access: raw.map(() => 1),
        own: raw.map(({ chance }) => chance),
        share: raw.map(() => [1]),
        windows: raw.map(() => STEADY),
      },
    ],
  }
}
