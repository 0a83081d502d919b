import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { amended, Amendment } from './amending'
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
