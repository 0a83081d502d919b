import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { simulatedYear } from '../../stand-ins/shop/simulated-year'
import { NOW } from '../testing/case-with'
import { cameOf } from './ended-run'
import { bracketOf, lampsOf } from './lamps'

const year = (seed: number) => simulatedYear({ seed, runs: 5000, now: NOW, people: ['Bram'] }).runs

describe('the lamps', () => {
  it('all keep their word in three years of a shop whose odds are right', () => {
    for (const seed of [1, 2, 3]) {
      const lamps = lampsOf(year(seed).map((run) => ({ chance: run.chance!, came: cameOf(run)! })))
      expect(lamps.filter(({ isKept }) => !isKept)).toEqual([])
      expect(lamps.reduce((sum, { count }) => sum + count, 0)).toBe(5000)
    }
  }, 60_000)

  it('stand outside where a shop promises a tenth too much', () => {
    const boastful = year(1).map((run) => ({ chance: Math.min(0.99, run.chance! + 0.1), came: cameOf(run)! }))
    expect(lampsOf(boastful).filter(({ isKept }) => !isKept).length).toBeGreaterThanOrEqual(3)
  }, 60_000)

  it('are bracketed as the binomial distribution says', () => {
    // Of 20 coins: P(S ≤ 3) = 0.0013 and P(S ≤ 4) = 0.0059.
    expect(bracketOf(Array.from({ length: 20 }, () => 0.5))).toEqual([4, 16])
    expect(bracketOf([1, 1, 0])).toEqual([2, 2])
  })

  it('have brackets around their expectation, and the exact ones agree with the normal ones', () => {
    fc.assert(
      fc.property(fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 1, maxLength: 60 }), (chances) => {
        const [low, high] = bracketOf(chances)
        const mean = chances.reduce((sum, chance) => sum + chance, 0)
        expect(low).toBeLessThanOrEqual(mean + 1)
        expect(high).toBeGreaterThanOrEqual(mean - 1)
      }),
    )
    const many = (count: number) => bracketOf(Array.from({ length: count }, () => 0.3)).map((edge) => edge / count)
    expect(many(1501)[0]).toBeCloseTo(many(1500)[0]!, 2)
    expect(many(1501)[1]).toBeCloseTo(many(1500)[1]!, 2)
  })
})
