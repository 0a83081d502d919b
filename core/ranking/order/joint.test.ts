import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { withFacts } from '../../cases/facts/facts'
import type { Case } from '../../cases/shape/case'
import { defaultPlaybook } from '../../playbook/playbook'
import { ago, caseWith, NOW } from '../../testing/case-with'
import { consider } from '../explain/consider'
import { fullPlanOf } from '../explain/plan'
import { MAX_STATES } from './joint'
import { unknownsOf } from './unknowns'
import { keptFor } from '../figures/windows/kept'
import { situationOf } from '../situation/situation'

const playbook = defaultPlaybook()
const plan = (ofCase: Case, depth: 'order' | 'whole' = 'order') => fullPlanOf(ofCase, playbook, NOW, { depth })
const told = (ofCase: Case, fact: string, is: unknown) => {
  const set = withFacts(ofCase, [{ fact, is }])
  if (!set.ok) throw new Error(JSON.stringify(set.faults))
  return set.changed
}

const synced = caseWith({
  'devices.d1': {
    kind: 'phone',
    platform: 'open-phone',
    lock: 'unlocked',
    condition: 'working',
    bins: { photos: 'off' },
    storage: { encryption: 'per-file' },
  },
  'wanted.w1': { type: 'photos', count: 300, made: ago(60, 20) },
  'loss.how': 'deleted-in-bulk',
  'loss.when': ago(5),
  'copies.c1': { kind: 'cloud-library', account: 'known', size: 'full' },
})

describe('joint states', () => {
  it('separate a fact that two routes share, so that only one of them has the items', () => {
    const whole = plan(synced)
    expect(whole.plan.states.facts).toContain('copies.c1.sync')
    const [bin, kept] = ['cloud-library-bin:c1', 'cloud-library-kept:c1'].map((id) =>
      whole.plan.options.find((option) => option.id === id)!,
    )
    // Were they independent, the two together would promise more than either answer does.
    const apart = 1 - (1 - bin!.expected) * (1 - kept!.expected)
    const both = plan(told(synced, 'copies.c1.sync', 'on')).plan.expected.share[1]
    const none = plan(told(synced, 'copies.c1.sync', 'off')).plan.expected.share[1]
    expect(whole.plan.expected.share[1]).toBeLessThanOrEqual(Math.max(both, none) + 1e-9)
    expect(bin!.expected + kept!.expected).toBeLessThan(1)
    expect(whole.plan.expected.share[1]).toBeGreaterThan(apart)
  })

  it('give the mean of what each answer would give, where the order is the same', () => {
    const whole = plan(synced, 'whole')
    const question = whole.plan.questions.find((one) => one.fact === 'copies.c1.sync')!
    const unknown = unknownsOf(
      situationOf(synced, playbook, NOW),
      consider(synced, playbook, NOW).live.map((one) => one.binding),
    ).find((one) => one.fact === 'copies.c1.sync')!
    const mean = unknown.answers.reduce((sum, answer) => sum + answer.probability * question.answers[answer.value]!, 0)
    expect(mean).toBeCloseTo(whole.plan.expected.share[1], 2)
  })

  it('are at most 64, and what was left out is reported', () => {
    const many = caseWith({
      'devices.d1': { kind: 'phone', platform: 'open-phone' },
      'wanted.w1': { type: 'photos', count: 300, made: ago(60, 20) },
      'loss.how': 'deleted-in-bulk',
      'loss.when': ago(50, 5),
      'copies.c1': { kind: 'cloud-library' },
      'copies.c2': { kind: 'computer-backup', taken: ago(30, 10) },
      'copies.c3': { kind: 'cloud-backup', taken: ago(15) },
    })
    const { states } = plan(many).plan
    expect(states.count).toBeLessThanOrEqual(MAX_STATES)
    expect(states.count).toBeGreaterThan(1)
    expect(states.folded.length).toBeGreaterThan(0)
  })

  it('have chances that add up to 1 for every fact', () => {
    const situation = situationOf(synced, playbook, NOW)
    const unknowns = unknownsOf(
      situation,
      consider(synced, playbook, NOW).options.map((one) => one.binding),
    )
    for (const unknown of unknowns)
      expect(
        unknown.answers.reduce((sum, one) => sum + one.probability, 0),
        unknown.fact,
      ).toBeCloseTo(1, 9)
  })
})

describe('questions', () => {
  it('are never worth less than nothing, and the one worth most comes first', () => {
    let asked = 0
    fc.assert(
      fc.property(
        fc.record({
          sync: fc.constantFrom('on', 'off', 'unknown'),
          bin: fc.constantFrom('on', 'off', 'unknown'),
          account: fc.constantFrom('known', 'unknown'),
          encrypted: fc.constantFrom('yes', 'no', 'unknown'),
          lost: fc.integer({ min: 1, max: 50 }),
          wide: fc.integer({ min: 0, max: 20 }),
        }),
        ({ sync, bin, account, encrypted, lost, wide }) => {
          const ofCase = caseWith({
            'devices.d1': { kind: 'phone', platform: 'open-phone', lock: 'unlocked', bins: { photos: bin } },
            'wanted.w1': { type: 'photos', count: 300, made: ago(120, 80) },
            'loss.how': 'deleted-in-bulk',
            'loss.when': ago(lost + wide, lost),
            'copies.c1': { kind: 'cloud-library', account, sync },
            'copies.c2': { kind: 'computer-backup', taken: ago(70), encrypted },
          })
          const { questions } = plan(ofCase, 'whole').plan
          asked += questions.length
          for (const [index, question] of questions.entries()) {
            expect(question.gain).toBeGreaterThanOrEqual(0)
            if (index > 0) expect(question.gain).toBeLessThanOrEqual(questions[index - 1]!.gain)
            expect(Object.keys(question.answers).length).toBeGreaterThan(1)
          }
        },
      ),
      { numRuns: 8 },
    )
    expect(asked).toBeGreaterThan(8)
  })

  it('are not asked again of a client who did not know', () => {
    const asked = plan(synced, 'whole').plan.questions[0]!.fact
    const settled = { ...synced, notKnown: [asked] }
    expect(plan(settled, 'whole').plan.questions.map((question) => question.fact)).not.toContain(asked)
  })
})

describe('windows of a bin', () => {
  const survival = (from: number, to: number, minDays: number, maxDays: number) =>
    keptFor({ minDays, maxDays }, situationOf(caseWith({ 'loss.when': ago(from, to) }), playbook, NOW)).survival(NOW)

  it('an earlier loss never raises it, and a longer period never lowers it', () => {
    fc.assert(
      fc.property(
        fc.record({
          lost: fc.integer({ min: 0, max: 60 }),
          wide: fc.integer({ min: 0, max: 20 }),
          least: fc.integer({ min: 1, max: 50 }),
          more: fc.integer({ min: 0, max: 20 }),
          by: fc.integer({ min: 0, max: 20 }),
        }),
        ({ lost, wide, least, more, by }) => {
          const now = survival(lost + wide, lost, least, least + more)
          expect(survival(lost + wide + by, lost + by, least, least + more)).toBeLessThanOrEqual(now + 1e-12)
          expect(survival(lost + wide, lost, least + by, least + more + by)).toBeGreaterThanOrEqual(now - 1e-12)
        },
      ),
      { numRuns: 200 },
    )
  })
})

describe('an order of somebody’s own', () => {
  it('costs what it is worth less than the best, and nothing where it is the best', () => {
    const own = (order: string[]) =>
      plan({ ...synced, override: { order, reason: 'A hunch.', by: 'Bram', at: '2026-11-24T10:00:00Z' } }).override!
    const best = plan(synced).plan.order
    // Among plans that are as good as equal the best may begin with another step.
    expect(own([...best]).price).toBeLessThanOrEqual(5)
    const turned = own([...best].reverse())
    expect(turned.price).toBeGreaterThanOrEqual(0)
    expect(turned.order).toEqual([...best].reverse())
    expect(own(['no-such:d1', best.at(-1)!]).order[0]).toBe(best.at(-1))
  })
})

describe('what a restore would destroy', () => {
  it('is covered by a safety copy, never by consent alone', () => {
    const ofCase = caseWith({
      'devices.d1': { kind: 'phone', platform: 'closed-phone', lock: 'unlocked', condition: 'working' },
      'wanted.w1': { type: 'photos', count: 300, made: ago(80, 30) },
      'loss.how': 'bin-emptied',
      'loss.when': ago(5),
      'copies.c1': { kind: 'computer-backup', taken: ago(20), encrypted: 'no', selective: 'no' },
    })
    const { live, built } = consider(ofCase, playbook, NOW)
    const ids = live.map((option) => option.id)
    const restore = built.problem.steps[ids.indexOf('computer-backup-full:c1')]!
    expect(restore.harm).toBeGreaterThan(0)
    expect(restore.requires.map((position) => ids[position])).toEqual(['consent-erase:d1', 'safety-copy:d1'])
    expect(restore.coveredBy.map((position) => ids[position])).toEqual(['safety-copy:d1'])
  })
})
