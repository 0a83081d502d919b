import { describe, expect, it } from 'vitest'
import { defaultPlaybook } from '../../playbook/playbook'
import { contradictions, workedCases } from '../../testing/worked-cases'
import { planOf } from '../explain/plan'

const playbook = defaultPlaybook()
const cases = workedCases()

describe('the worked cases', () => {
  it('are at least sixty', () => {
    expect(cases.length).toBeGreaterThanOrEqual(60)
  })

  it.each(cases.map((one) => [one.name, one] as const))('%s', (_name, one) => {
    // Questions, and the worth from which a route is tried, take longer than the order itself.
    const { asks, asksAmong, worthFrom } = one.expect
    const depth = asks || asksAmong || worthFrom ? 'whole' : 'order'
    expect(contradictions(one, planOf(one.ofCase, playbook, one.now, { depth })), one.because).toEqual([])
  })
})
