import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { DAY_MS, MINUTE_MS } from '../../cases/shape/moment'
import { broughtBy, worthBySubset } from './brought'
import { NOTHING_TRIED, type History } from './histories'
import { bestPolicy } from './policy'
import { bestByRecursion, worthOfFixedOrder } from './policy.brute-force'
import { play } from './play'
import { givenStates, STEADY, type JointState, type Problem, type Step } from './problem'

/** Evenly spread figures, in thousandths: a double of all its forms would nearly always be next to 0. */
const real = (min: number, max: number) =>
  fc.integer({ min: min * 1000, max: max * 1000 }).map((thousandths) => thousandths / 1000)
const unit = real(0, 1)

/** Work in the daytime only, ten hours of it a day; waits pass round the clock. */
const elapsed = (hands: number, wait: number) => (Math.floor(hands / 600) * 1440 + (hands % 600) + wait) * MINUTE_MS

/** Problems of up to `most` steps with shared access and places, passes, spoil, windows, preparations and safety copies. */
function problems(most: number): fc.Arbitrary<Problem> {
  return fc
    .record({
      count: fc.integer({ min: 1, max: most }),
      groups: fc.integer({ min: 1, max: 4 }),
      slices: fc.integer({ min: 1, max: 4 }),
      states: fc.integer({ min: 1, max: 4 }),
    })
    .chain(({ count, groups, slices, states }) => {
      const isPreparation = (index: number) => index === 0 && count > 2
      const step = (index: number): fc.Arbitrary<Step> =>
        fc.record({
          id: fc.constant(`s${index}`),
          group: isPreparation(index) ? fc.constant(groups) : fc.integer({ min: 0, max: groups - 1 }),
          place: fc.constantFrom('a', 'b', `own ${index}`),
          nest: fc.constantFrom(null, null, 'pass'),
          cost: real(0, 40),
          look: fc.constant(0),
          take: fc.constantFrom(0, 0, 40),
          harm: isPreparation(index) ? fc.constant(0) : fc.constantFrom(0, 0, 0, 25, 120),
          destroys: fc.constantFrom('d1', 'd1', null),
          coveredBy: fc.constant([]),
          requires:
            index > 0
              ? fc.oneof(
                  { weight: 2, arbitrary: fc.constant([]) },
                  { weight: 1, arbitrary: fc.integer({ min: 0, max: index - 1 }).map((one) => [one]) },
                )
              : fc.constant([]),
          hands: fc.integer({ min: 0, max: 240 }),
          wait: fc.constantFrom(0, 0, 60, 4000),
          answersLater: fc.boolean(),
          closesByUse: fc.constant(false),
          leaves: fc.array(fc.constantFrom(1, 1, 1, 0.5, 0), { minLength: count, maxLength: count }),
        })
      return fc
        .record({
          steps: fc.tuple(...Array.from({ length: count }, (_, index) => step(index))),
          worth: fc.array(real(0, 200), { minLength: slices, maxLength: slices }),
          late: fc.constantFrom(0, 0.01, 0.2),
          states: fc.array(
            fc.record({
              weight: real(0.1, 1),
              access: fc.array(fc.oneof(unit, fc.constantFrom(0, 1)), { minLength: groups, maxLength: groups }),
              own: fc.array(fc.oneof(unit, fc.constantFrom(0, 1)), { minLength: count, maxLength: count }),
              share: fc.array(
                fc.array(fc.oneof(unit, fc.constantFrom(0, 1)), { minLength: slices, maxLength: slices }),
                { minLength: count, maxLength: count },
              ),
              fade: fc.array(fc.constantFrom(0, 0, 0.001, 0.01), { minLength: count, maxLength: count }),
            }),
            { minLength: states, maxLength: states },
          ),
        })
        .map(({ steps, worth, late, states: raw }): Problem => {
          const whole = raw.reduce((sum, state) => sum + state.weight, 0)
          return {
            // A step that something has to come before is also the one whose harm that takes away.
            steps: steps.map((one) => ({ ...one, coveredBy: one.requires })),
            groups: groups + 1,
            worth,
            elapsed,
            latePerDay: late,
            residue: 0.15,
            tie: 0,
            states: raw.map((state): JointState => ({
              probability: state.weight / whole,
              access: [...state.access, 1],
              own: state.own,
              share: state.share.map((share, index) => (isPreparation(index) ? share.map(() => 0) : share)),
              windows: state.fade.map((fade) => (ms) => Math.max(0, 1 - (fade * ms) / MINUTE_MS)),
            })),
          }
        })
    })
}

describe('the best policy', () => {
  it('is worth as much as the best of all policies, by recursion over histories', () => {
    fc.assert(
      fc.property(problems(4), (problem) => {
        expect(bestPolicy(problem).value).toBeCloseTo(bestByRecursion(problem), 9)
      }),
      { numRuns: 600 },
    )
    fc.assert(
      fc.property(problems(5), (problem) => {
        expect(bestPolicy(problem).value).toBeCloseTo(bestByRecursion(problem), 9)
      }),
      { numRuns: 25 },
    )
  })

  it('is never worth less than a fixed order carried to its end', () => {
    fc.assert(
      fc.property(problems(5), fc.infiniteStream(unit), (problem, keys) => {
        const order = problem.steps
          .map((_, index) => ({ index, key: keys.next().value! }))
          .sort((one, other) => one.key - other.key)
          .map(({ index }) => index)
        expect(bestPolicy(problem).value).toBeGreaterThanOrEqual(worthOfFixedOrder(problem, order) - 1e-9)
      }),
      { numRuns: 200 },
    )
  })

  it('is worth what it brings when it is played forward', () => {
    fc.assert(
      fc.property(problems(5), (problem) => {
        const policy = bestPolicy(problem)
        expect(play(problem, policy.next).value).toBeCloseTo(policy.value, 9)
      }),
      { numRuns: 300 },
    )
  })

  it('falls back to ascending (cost / chance) + take where steps are independent, complete, harmless and open', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ chance: real(0.05, 0.95), cost: real(1, 20), take: fc.constantFrom(0, 0, 15, 40) }), {
          minLength: 2,
          maxLength: 7,
        }),
        (raw) => {
          const problem = independent(raw)
          const figures = failing(problem).map((step) => raw[step]!.cost / raw[step]!.chance + raw[step]!.take)
          for (let turn = 1; turn < figures.length; turn++)
            expect(figures[turn]!).toBeGreaterThanOrEqual(figures[turn - 1]! - 1e-9)
        },
      ),
      { numRuns: 200 },
    )
  })

  it('never tries a step before what has to have worked', () => {
    let checked = 0
    fc.assert(
      fc.property(problems(6), (problem) => {
        const { next } = bestPolicy(problem)
        play(problem, (history) => {
          const step = next(history)
          for (const needed of step === null ? [] : problem.steps[step]!.requires) {
            checked++
            expect(history.worked & (1 << needed)).not.toBe(0)
          }
          return step
        })
      }),
      { numRuns: 600, seed: 1127 },
    )
    expect(checked).toBeGreaterThan(10)
  })

  it('never loses by knowing in which state it is, where windows stay open and nothing does harm', () => {
    fc.assert(
      fc.property(problems(5), (problem) => {
        const open = {
          ...problem,
          steps: problem.steps.map((step) => ({ ...step, harm: 0 })),
          states: problem.states.map((state) => ({ ...state, windows: state.windows.map(() => STEADY) })),
        }
        // A state in which a step cannot work makes it void, which only a plan made in it would know.
        const informed = open.states.reduce(
          (sum, state) => sum + state.probability * bestPolicy(givenStates(open, [state])).value,
          0,
        )
        expect(informed).toBeGreaterThanOrEqual(bestPolicy(open).value - 1e-9)
      }),
      { numRuns: 300 },
    )
  })

  it('refuses more steps than it can solve exactly', () => {
    const nine = independent(Array.from({ length: 9 }, () => ({ chance: 0.5, cost: 1, take: 0 })))
    expect(() => bestPolicy(nine)).toThrow(RangeError)
  })

  it('tries the long and unlikely one only where a likely one brought little', () => {
    const problem = independent([
      { chance: 0.9, cost: 5, take: 0 },
      { chance: 0.3, cost: 60, take: 0 },
    ])
    const partly = { ...problem, states: problem.states.map((state) => ({ ...state, share: [[0.9], [1]] })) }
    const { next } = bestPolicy(partly)
    expect(next(NOTHING_TRIED)).toBe(0)
    expect(next({ worked: 1, failed: 0, void: 0 })).toBeNull()
    expect(next({ worked: 0, failed: 1, void: 0 })).toBe(1)
  })

  it('what comes late is worth less, and a window that closes meanwhile is lost', () => {
    const two = independent([
      { chance: 0.8, cost: 1, take: 0 },
      { chance: 0.8, cost: 1, take: 0 },
    ])
    const slow = { ...two, steps: two.steps.map((step, index) => ({ ...step, wait: index === 0 ? 5 * 1440 : 0 })) }
    expect(failing({ ...slow, latePerDay: 0.01 })).toEqual([1, 0])
    const closing = {
      ...two,
      states: two.states.map((state) => ({
        ...state,
        windows: [STEADY, (ms: number) => (ms > 0 ? 0.5 : 1)],
        share: [[0.5], [0.5]],
      })),
    }
    expect(failing(closing)[0]).toBe(1)
  })
})

describe('playing a policy forward', () => {
  it('finds later windows closed further, what was spoilt spoilt, and does less once all is back', () => {
    const two = independent([
      { chance: 0.5, cost: 1, take: 0 },
      { chance: 0.8, cost: 1, take: 40 },
    ])
    const problem = {
      ...two,
      steps: two.steps.map((step, index) => ({ ...step, leaves: index === 0 ? [1, 0.5] : [1, 1] })),
      states: two.states.map((state) => ({ ...state, windows: [STEADY, (ms: number) => (ms > 0 ? 0.5 : 1)] })),
    }
    const inTurn = ({ worked, failed, void: closed }: History) => {
      if (worked + failed + closed === 0) return 0
      return failed === 1 && worked + closed === 0 ? 1 : null
    }
    const played = play(problem, inTurn)
    expect(played.tries.map(({ step, probability }) => [step, probability])).toEqual([
      [0, 1],
      [1, 0.5],
    ])
    expect(played.tries[1]!.works).toBeCloseTo(0.8 * 0.5 * 0.5, 12)
    expect(played.endings.reduce((sum, one) => sum + one.probability * one.back, 0)).toBeCloseTo(500 * 0.6, 9)
    expect(played.firsts.map(({ probability }) => probability)).toEqual([0.5, expect.closeTo(0.1, 12)])
    expect(played.firsts[1]!.spent).toEqual({ hands: 20, wait: 0, money: 40 })
  })
})

describe('what steps bring', () => {
  it('is never more than the sum nor less than the largest part, and the table of all sets agrees', () => {
    fc.assert(
      fc.property(problems(5), (problem) => {
        const worths = worthBySubset(problem)
        for (const [at, state] of problem.states.entries())
          for (let worked = 0; worked < 1 << problem.steps.length; worked++) {
            const brought = broughtBy(problem, at, worked)
            const parts = problem.steps.flatMap((_, index) => (worked & (1 << index) ? [state.share[index]!] : []))
            problem.worth.forEach((_, slice) => {
              const alone = parts.map((share) => share[slice]!)
              expect(brought[slice]!).toBeLessThanOrEqual(alone.reduce((a, b) => a + b, 0) + 1e-9)
              expect(brought[slice]!).toBeGreaterThanOrEqual(Math.max(0, ...alone) - 1e-9)
            })
            const worth = problem.worth.reduce((sum, one, slice) => sum + one * brought[slice]!, 0)
            expect(worths[worked * problem.states.length + at]!).toBeCloseTo(worth, 9)
          }
      }),
      { numRuns: 100 },
    )
  })

  it('two scans of one medium do not find twice what it still has', () => {
    const problem = independent([
      { chance: 1, cost: 1, take: 0 },
      { chance: 1, cost: 1, take: 0 },
    ])
    const one = {
      ...problem,
      steps: problem.steps.map((step) => ({ ...step, place: 'free area' })),
      states: [{ ...problem.states[0]!, share: [[0.4], [0.4]] }],
    }
    expect(broughtBy(one, 0, 3)[0]).toBeCloseTo(0.4, 9)
    expect(broughtBy({ ...one, steps: problem.steps }, 0, 3)[0]).toBeCloseTo(0.64, 9)
  })
})

/** The steps that are tried where none of them works. */
function failing(problem: Problem): number[] {
  const { next } = bestPolicy(problem)
  const steps: number[] = []
  let history: History = NOTHING_TRIED
  for (let step = next(history); step !== null; step = next(history)) {
    steps.push(step)
    history = { ...history, failed: history.failed | (1 << step) }
  }
  return steps
}

function independent(raw: readonly { chance: number; cost: number; take: number }[]): Problem {
  return {
    steps: raw.map(({ cost, take }, index) => ({
      id: `s${index}`,
      group: index,
      place: `s${index}`,
      nest: null,
      cost,
      look: 0,
      take,
      harm: 0,
      destroys: null,
      coveredBy: [],
      requires: [],
      hands: 10,
      wait: 0,
      answersLater: false,
      closesByUse: false,
      leaves: raw.map(() => 1),
    })),
    groups: raw.length,
    worth: [500],
    elapsed: (hands, wait) => (hands + wait) * (DAY_MS / 1440),
    latePerDay: 0,
    residue: 0.15,
    tie: 0,
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
