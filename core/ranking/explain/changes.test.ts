import { describe, expect, it } from 'vitest'
import { CASE_FORMAT, Case } from '../../cases/shape/case'
import { defaultPlaybook } from '../../playbook/playbook'
import { ago, caseWith, NOW } from '../../testing/case-with'
import { isUnchanged, planChanges } from './changes'
import { fullPlanOf } from './plan'

const playbook = defaultPlaybook()
const facts = {
  'devices.d1': { kind: 'phone', platform: 'open-phone', lock: 'unlocked', condition: 'working' },
  'wanted.w1': { type: 'photos', count: 200, made: ago(40, 12) },
  'loss.how': 'deleted-in-bulk',
  'loss.when': ago(6, 4),
  'copies.c1': { kind: 'computer-backup', taken: ago(9), encrypted: 'no', selective: 'yes' },
}
const planOf = (ofCase: Case) => fullPlanOf(ofCase, playbook, NOW, { depth: 'order' }).plan
const ofCase = caseWith(facts)
const before = planOf(ofCase)
const first = before.options.find(({ id }) => id === before.order[0])!

const withRun = (more: object) =>
  Case.parse({
    ...ofCase,
    format: CASE_FORMAT,
    runs: [
      {
        id: 'r1',
        option: first.id,
        kind: first.kind,
        copy: first.copy,
        title: first.title,
        by: 'Bram',
        started: '2026-11-24T10:00:00Z',
        ended: '2026-11-24T10:40:00Z',
        ...more,
      },
    ],
  })

describe('what a result changes in the plan', () => {
  it('names the route that closed, what is next now, and what is still expected', () => {
    const changes = planChanges(before, planOf(withRun({ hasFailed: true, cause: 'nothing-there' })))
    expect(changes.closed).toMatchObject([{ id: first.id, says: expect.stringContaining('nothing there') }])
    expect(changes.next[0]).toBe(first.title)
    expect(changes.next[1]).not.toBe(first.title)
    expect(changes.expected![1]).toBeLessThan(changes.expected![0])
    expect(isUnchanged(changes)).toBe(false)
  })

  it('says where nothing is left to try', () => {
    const all = withRun({ results: [{ wanted: 'w1', back: 200, whole: 200 }] })
    const changes = planChanges(before, planOf(all))
    expect(changes.next[1]).toBeNull()
    expect(changes.expected![1]).toBeCloseTo(1, 6)
    expect(changes.dropped.length).toBeGreaterThan(0)
  })

  it('is nothing where the plan is the same, and where time ran out', () => {
    expect(isUnchanged(planChanges(before, before))).toBe(true)
    expect(isUnchanged(planChanges(before, planOf(withRun({ hasFailed: true, cause: 'out-of-time' }))))).toBe(true)
  })
})
