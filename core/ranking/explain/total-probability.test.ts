import { describe, expect, it } from 'vitest'
import { withFacts } from '../../cases/facts/facts'
import { defaultPlaybook } from '../../playbook/playbook'
import { workedCases } from '../../testing/worked-cases'
import { chanceFor } from '../order/joint'
import { isPreparation } from '../order/preparations'
import { consider } from './consider'
import { fullPlanOf } from './plan'

const playbook = defaultPlaybook()

/** Moments are cut into parts, and the parts of a part are others: there the mean is only nearly the whole. */
const isMoment = (fact: string) => fact === 'loss.when' || fact.endsWith('.taken')

describe('total probability', () => {
  const cases = workedCases().filter((_, index) => index % 12 === 0)

  it.each(cases.map((one) => [one.name, one] as const))(
    'every figure is the mean of the figures under the answers to any fact: %s',
    (_name, { ofCase, now }) => {
      const { unknowns, live, situation } = consider(ofCase, playbook, now)
      const planOf = (of: typeof ofCase) => fullPlanOf(of, playbook, now, { depth: 'order' }).plan
      const whole = planOf(ofCase)
      expect(whole.options.length).toBeGreaterThan(0)
      for (const { unknown } of unknowns.moving.filter((one) => !isMoment(one.unknown.fact))) {
        const under = unknown.answers.map(({ suppose }) => {
          const set = withFacts(ofCase, suppose)
          return set.ok ? planOf(set.changed) : null
        })
        for (const option of live) {
          if (isPreparation(option)) continue
          const mean = unknown.answers.reduce((sum, _, at) => {
            const expected = under[at]?.options.find(({ id }) => id === option.id)?.expected ?? 0
            return sum + chanceFor(unknown, at, option, situation) * expected
          }, 0)
          const shown = whole.options.find(({ id }) => id === option.id)!.expected
          expect(Math.abs(mean - shown), `${option.id}, ${unknown.fact}`).toBeLessThan(0.002)
        }
      }
    },
  )
})
