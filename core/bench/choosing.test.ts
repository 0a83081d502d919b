import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { caseWith } from '../testing/case-with'
import { judgeBackups, type Choosable } from './choosing'

const of = caseWith({
  'wanted.w1': { type: 'notes', count: 40, made: { from: '2026-10-01T00:00:00Z', to: '2026-10-31T00:00:00Z' } },
  'loss.when': { from: '2026-11-06T00:00:00Z', to: '2026-11-10T00:00:00Z' },
})
const backup = (id: string, taken: string, more: Partial<Choosable['facts']> = {}, isOther = false): Choosable => ({
  id,
  isOther,
  facts: {
    device: 'Slate',
    account: null,
    taken,
    bytes: 1,
    isEncrypted: false,
    keepsBins: false,
    counts: { notes: 9 },
    isSelective: true,
    slots: null,
    ...more,
  },
})

describe('choosing among backups', () => {
  it('takes the newest one from before the loss, and says why not the others', () => {
    const judged = judgeBackups(
      [
        backup('after', '2026-11-20T00:00:00Z'),
        backup('within', '2026-11-08T00:00:00Z'),
        backup('newest', '2026-11-05T00:00:00Z'),
        backup('older', '2026-10-16T00:00:00Z'),
        backup('before them', '2026-09-01T00:00:00Z'),
        backup('pictures', '2026-11-05T12:00:00Z', { counts: { photos: 3 } }),
        backup('of another', '2026-11-05T12:00:00Z', {}, true),
      ],
      of,
    )
    expect(Object.fromEntries(judged.map((one) => [one.id, one.verdict]))).toEqual({
      after: 'too-late',
      within: 'unclear',
      newest: 'best',
      older: 'useful',
      'before them': 'too-early',
      pictures: 'kind-missing',
      'of another': 'other-device',
    })
    expect(judged.every((one) => one.why.length > 10)).toBe(true)
    expect(judged.find((one) => one.id === 'older')!.reach).toBeCloseTo(0.5)
  })

  it('without dates takes the newest that is not known to be wrong', () => {
    const judged = judgeBackups(
      [backup('a', '2026-01-01T00:00:00Z'), backup('b', '2026-11-01T00:00:00Z')],
      caseWith({ 'wanted.w1': { type: 'notes' } }),
    )
    expect(judged.find((one) => one.id === 'b')).toMatchObject({ verdict: 'best', reach: null })
  })

  it('never calls one the best that was taken after the loss, or more than one', () => {
    const day = fc
      .integer({ min: 0, max: 120 })
      .map((at) => new Date(Date.UTC(2026, 8, 1) + at * 86_400_000).toISOString())
    fc.assert(
      fc.property(fc.array(day, { maxLength: 8 }), (days) => {
        const judged = judgeBackups(
          days.map((taken, at) => backup(String(at), taken)),
          of,
        )
        const best = judged.filter((one) => one.verdict === 'best')
        expect(best.length).toBeLessThanOrEqual(1)
        for (const one of best) {
          const taken = Date.parse(days[Number(one.id)]!)
          expect(taken).toBeLessThanOrEqual(Date.UTC(2026, 10, 6))
          for (const other of judged) expect(other.verdict === 'useful' && other.reach! > one.reach!).toBe(false)
        }
      }),
    )
  })
})
