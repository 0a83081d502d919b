import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Case } from '../../cases/shape/case'
import { withFacts } from '../../cases/facts/facts'
import { defaultPlaybook } from '../../playbook/playbook'
import { NOW } from '../../testing/case-with'
import { randomCase } from '../../testing/random-cases'
import { workedCases, type WorkedCase } from '../../testing/worked-cases'
import { chanceFor } from '../order/joint'
import { isPreparation } from '../order/preparations'
import { consider } from './consider'
import type { Plan } from '../situation/plan-shape'
import { fullPlanOf } from './plan'

const playbook = defaultPlaybook()

/** Moments are cut into parts, and the parts of a part are others: there the mean is only nearly the whole. */
const isMoment = (fact: string) => fact === 'loss.when' || /\.(taken|syncedUntil)$/.test(fact)

/** As many combinations of answers are summed over; where there are more, the least moving facts stand at their mean. */
const MOST = 256

/** An option below a millionth is closed, and its figure is not summed over anything. */
const CLOSED = 1e-6

function expectTotals(ofCase: Case, now: number, exact: number) {
  const { unknowns, live, situation } = consider(ofCase, playbook, now)
  const planOf = (of: Case) => fullPlanOf(of, playbook, now, { depth: 'order' }).plan
  const whole = planOf(ofCase)
  const expectedIn = (plan: Plan | null, asked: string) => plan?.options.find(({ id }) => id === asked)?.expected ?? 0
  for (const { unknown, moves } of unknowns.moving.filter((one) => !isMoment(one.unknown.fact))) {
    const under = unknown.answers.map(({ suppose }) => {
      const set = withFacts(ofCase, suppose)
      return set.ok ? planOf(set.changed) : null
    })
    for (const [index, option] of live.entries()) {
      if (isPreparation(option) || !moves.includes(index)) continue
      const movers = unknowns.moving.filter((one) => one.moves.includes(index)).map((one) => one.unknown)
      const combinations = movers.reduce((so, { answers }) => so * answers.length, 1)
      // Whether a library was in step decides whether until when is asked, which is a moment.
      const isExact = combinations <= MOST && !movers.some(({ fact }) => isMoment(fact) || fact.endsWith('.sync'))
      const mean = unknown.answers.reduce(
        (sum, _, at) => sum + chanceFor(unknown, at, option, situation) * expectedIn(under[at]!, option.id),
        0,
      )
      const off = Math.abs(mean - expectedIn(whole, option.id))
      expect(off, `${option.id}, ${unknown.fact}`).toBeLessThan(isExact ? exact : 0.01)
    }
  }
}

describe('every figure is the mean of the figures under the answers to any fact', () => {
  const hasUnknown = ({ ofCase, now }: WorkedCase) => {
    const { live, unknowns } = consider(ofCase, playbook, now)
    const isOfRoute = (index: number) => !isPreparation(live[index]!)
    return unknowns.moving.some(({ unknown, moves }) => !isMoment(unknown.fact) && moves.some(isOfRoute))
  }
  const cases = workedCases().filter((one, index) => index % 10 === 0 && hasUnknown(one))

  it.each(cases.map((one) => [one.name, one] as const))('%s', (_name, { ofCase, now }) =>
    expectTotals(ofCase, now, 1e-9),
  )

  it('in any case', () => {
    fc.assert(
      fc.property(randomCase, (ofCase) => expectTotals(ofCase, NOW, CLOSED)),
      { numRuns: 12 },
    )
  })
})
