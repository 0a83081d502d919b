import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { emptyCase } from '../shape/case'
import { factAt, withFacts, type Change } from './facts'
import { caseWith as built } from '../../testing/case-with'
import { mergeByFact } from './merge'

const caseWith = (...changes: Change[]) => built(Object.fromEntries(changes.map(({ fact, is }) => [fact, is])))
const phone: Change = { fact: 'devices.d1', is: { kind: 'phone', make: 'Korvane 7' } }

describe('facts', () => {
  it('are set by path, and parts of lists by their id', () => {
    const changed = caseWith(
      phone,
      { fact: 'devices.d1.storage.freeBytes', is: 9e9 },
      { fact: 'loss.how', is: 'formatted' },
    )
    expect(factAt(changed, 'devices.d1.storage.freeBytes')).toBe(9e9)
    expect(factAt(changed, 'devices.d1.make')).toBe('Korvane 7')
    expect(factAt(changed, 'devices.d2.make')).toBeUndefined()
  })

  it('what is not said is unknown, and unknown is a value', () => {
    const changed = caseWith(phone)
    expect(factAt(changed, 'devices.d1.platform')).toBe('unknown')
    expect(withFacts(changed, [{ fact: 'devices.d1.make', is: 'unknown' }]).ok).toBe(true)
  })

  it('a part is taken out with null and leaves the others', () => {
    const both = caseWith(phone, { fact: 'devices.d2', is: { kind: 'card' } })
    const set = withFacts(both, [{ fact: 'devices.d1', is: null }])
    expect(set.ok && set.changed.devices.map((device) => device.id)).toEqual(['d2'])
  })

  it.each([
    ['loss.how', 'vaporised', 'loss.how'],
    ['client.phone', 'call me', 'client.phone'],
    ['limits.money', -5, 'limits.money'],
    ['loss.when', { from: '2026-11-08T00:00:00Z', to: '2026-11-01T00:00:00Z' }, 'loss.when.to'],
    ['devices.d1.storage.freeBytes', 1.5, 'devices.d1.storage.freeBytes'],
    ['title', 'a\u202Eb', 'title'],
    ['nothing.like.this', 1, 'nothing.like.this'],
    ['state', { name: 'closed' }, 'state'],
    ['runs', [], 'runs'],
    ['__proto__.polluted', true, '__proto__.polluted'],
    ['loss.constructor.name', 'x', 'loss.constructor.name'],
    ['devices.d9.make', 'x', 'devices.d9.make'],
    ['devices.d1.id', 'd7', 'devices.d1.id'],
  ])('refuses %s = %j with the path of the fault', (fact, is, path) => {
    const before = caseWith(phone)
    const set = withFacts(before, [{ fact, is }])
    expect(set.ok).toBe(false)
    expect(set.ok ? [] : set.faults.map((fault) => fault.path)).toContain(path)
    expect(factAt(before, 'devices.d1.make')).toBe('Korvane 7')
  })

  it('never throws, whatever is sent', () => {
    fc.assert(
      fc.property(fc.string({ maxLength: 40 }), fc.jsonValue(), (fact, is) => {
        withFacts(caseWith(phone), [{ fact, is }])
        expect(({} as Record<string, unknown>).polluted).toBeUndefined()
      }),
      { numRuns: 300 },
    )
  })
})

describe('two people on one case', () => {
  const current = caseWith(phone, { fact: 'loss.how', is: 'formatted' }, { fact: 'limits.money', is: 80 })
  const past = (fact: string, is: unknown) => ({ fact, is, by: 'Bram' })

  it('facts that nobody else touched go through', () => {
    const merge = mergeByFact(current, [{ fact: 'limits.money', is: 100 }], [past('loss.how', 'formatted')])
    expect(merge).toEqual({ apply: [{ fact: 'limits.money', is: 100 }], clashes: [] })
  })

  it('the same answer twice is no clash', () => {
    expect(mergeByFact(current, [{ fact: 'loss.how', is: 'formatted' }], [past('loss.how', 'formatted')])).toEqual({
      apply: [],
      clashes: [],
    })
  })

  it('two answers to one fact become a question, and the other answer applies until then', () => {
    const merge = mergeByFact(current, [{ fact: 'loss.how', is: 'broken' }], [past('loss.how', 'formatted')])
    expect(merge.apply).toEqual([])
    expect(merge.clashes).toEqual([{ fact: 'loss.how', yours: 'broken', theirs: 'formatted', by: 'Bram' }])
  })

  it('changing a part that somebody removed is a clash and does not restore it', () => {
    const merge = mergeByFact(emptyCase(), [{ fact: 'devices.d1.make', is: 'Ostrel' }], [past('devices.d1', null)])
    expect(merge.clashes).toHaveLength(1)
    expect(merge.apply).toEqual([])
  })
})
