import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { DAY_MS, isoOf } from '../cases/shape/moment'
import { caseWith, NOW } from '../testing/case-with'
import { planOf } from '../ranking/explain/plan'
import { amended, Amendment } from './amending'
import { periodsOf } from './periods'
import { defaultPlaybook, Playbook } from './playbook'

const playbook = defaultPlaybook({ models: [{ make: 'Korvane', kind: 'phone' }] })

function after(amendment: unknown, on = playbook): Playbook {
  const done = amended(on, Amendment.parse(amendment))
  if (!done.ok) throw new Error(JSON.stringify(done.fault))
  return done.playbook
}
const faultOf = (amendment: unknown) => {
  const done = amended(playbook, Amendment.parse(amendment))
  return done.ok ? null : done.fault
}

describe('the periods of a playbook', () => {
  it('names each once, in words that need no case, as it is and as it ships', () => {
    const periods = periodsOf(playbook)
    expect(periods.length).toBeGreaterThan(20)
    expect(new Set(periods.map(({ kind, which }) => `${kind} ${which}`)).size).toBe(periods.length)
    for (const { title, period, shipped } of periods) {
      expect(title).not.toMatch(/[{}]/)
      expect(period).toEqual(shipped)
    }
    expect(periods.find(({ kind }) => kind === 'cloud-drive-bin')?.title).toBe('Bin of the cloud drive')
  })

  it.each(periodsOf(playbook).map(({ kind, which }) => [kind, which] as const))(
    'changes %s, %s, alone',
    (kind, which) => {
      const changed = after({ what: 'period', kind, which, period: { minDays: 3, maxDays: 44 } })
      const before = periodsOf(playbook)
      for (const [at, one] of periodsOf(changed).entries())
        expect(one.period).toEqual(
          one.kind === kind && one.which === which ? { minDays: 3, maxDays: 44 } : before[at]!.period,
        )
      expect(Playbook.parse(changed)).toEqual(changed)
    },
  )

  it('are what windows close by', () => {
    const lost = (days: number) => isoOf(NOW - days * DAY_MS)
    const ofCase = caseWith({
      'devices.d1': { kind: 'phone', platform: 'open-phone', lock: 'unlocked', bins: { photos: 'on' } },
      'wanted.w1': { type: 'photos', count: 50 },
      'loss.how': 'deleted-in-bulk',
      'loss.when': { from: lost(20), to: lost(20) },
    })
    const chance = (of: Playbook) =>
      planOf(ofCase, of, NOW).options.find(({ kind }) => kind === 'gallery-bin')!.chance[1]
    const short = after({ what: 'period', kind: 'gallery-bin', which: 'kept', period: { minDays: 10, maxDays: 14 } })
    expect(chance(playbook)).toBeGreaterThan(0.5)
    expect(chance(short)).toBe(0)
  })

  it('refuses a period that ends before it begins, is no length of time, or of a kind that has none', () => {
    const asked = (minDays: number, maxDays: number) =>
      Amendment.safeParse({ what: 'period', kind: 'gallery-bin', which: 'kept', period: { minDays, maxDays } }).success
    expect(asked(10, 9)).toBe(false)
    expect(asked(-1, 9)).toBe(false)
    expect(asked(1, Number.NaN)).toBe(false)
    expect(asked(10, 10)).toBe(true)
    const period = { minDays: 1, maxDays: 2 }
    expect(faultOf({ what: 'period', kind: 'ask-sender', which: 'kept', period })?.path).toBe('kind')
    expect(faultOf({ what: 'period', kind: 'nobody', which: 'kept', period })?.path).toBe('kind')
  })
})

describe('the table of makers', () => {
  it('takes, changes and forgets an entry, sorted, and keeps the rest', () => {
    const two = after({ what: 'model', instead: null, model: { make: 'Brindle 4', kind: 'tablet' } })
    expect(two.shop.models.map(({ make }) => make)).toEqual(['Brindle 4', 'Korvane'])
    const renamed = after({ what: 'model', instead: 'korvane', model: { make: 'Aldous' } }, two)
    expect(renamed.shop.models).toEqual([{ make: 'Aldous' }, { make: 'Brindle 4', kind: 'tablet' }])
    expect(after({ what: 'forget-model', make: 'ALDOUS' }, renamed).shop.models).toHaveLength(1)
    expect(playbook.shop.models).toHaveLength(1)
  })

  it('refuses an entry twice, and one that somebody removed in the meantime', () => {
    expect(faultOf({ what: 'model', instead: null, model: { make: 'korvane ' } })?.path).toBe('model.make')
    expect(faultOf({ what: 'model', instead: 'Aldous', model: { make: 'Brindle' } })?.path).toBe('instead')
    expect(faultOf({ what: 'forget-model', make: 'Aldous' })?.path).toBe('make')
  })
})

describe('weights', () => {
  it('change one at a time, and those that were changed before stay', () => {
    const weights = fc.record({
      worth: fc.double({ min: 0, max: 1e4, noNaN: true }),
      mustHave: fc.double({ min: 1, max: 100, noNaN: true }),
      handsOnMinute: fc.double({ min: 0, max: 100, noNaN: true }),
    })
    fc.assert(
      fc.property(weights, (some) => {
        const changed = Object.entries(some).reduce(
          (so, [which, is]) => after({ what: 'weight', which, is }, so),
          playbook,
        )
        expect(changed.shop.weights).toEqual({ ...playbook.shop.weights, ...some })
        expect(Playbook.parse(changed)).toEqual(changed)
      }),
    )
  })

  it('are never below nothing, and a must-have never weighs less than the rest', () => {
    expect(faultOf({ what: 'weight', which: 'worth', is: -1 })?.path).toBe('is')
    expect(faultOf({ what: 'weight', which: 'mustHave', is: 0.5 })?.path).toBe('is')
    expect(Amendment.safeParse({ what: 'weight', which: 'colour', is: 1 }).success).toBe(false)
  })
})
