import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { HOUR_MS } from '../../cases/shape/moment'
import { defaultPlaybook } from '../../playbook/playbook'
import { oddsOf } from './odds'
import { nextOpening, workClock } from '../situation/opening-hours'
import { wholeAfterWriting, wholeWhereLaid } from './overwriting'
import { pointsIn, shareAfter, sumIsAfter } from '../situation/spread'

const shop = defaultPlaybook().shop
const span = fc
  .tuple(fc.integer({ min: 0, max: 1000 }), fc.integer({ min: 0, max: 1000 }))
  .map(([from, width]) => ({ from, to: from + width }))

describe('ranges of time', () => {
  it('a sum of two ranges falls from one to zero and never rises', () => {
    fc.assert(
      fc.property(span, span, (one, other) => {
        const times = Array.from(
          { length: 40 },
          (_, index) => one.from + other.from - 10 + ((one.to + other.to - one.from - other.from + 20) * index) / 39,
        )
        const left = times.map((time) => sumIsAfter(one, other, time))
        expect(left[0]).toBe(1)
        expect(left.at(-1)).toBe(0)
        left.forEach((value, index) => index > 0 && expect(value).toBeLessThanOrEqual(left[index - 1]! + 1e-12))
      }),
    )
  })

  it('agrees with adding up the parts one by one', () => {
    fc.assert(
      fc.property(span, span, fc.integer({ min: 0, max: 4000 }), (one, other, time) => {
        if (one.to - one.from < 20 || other.to - other.from < 20) return
        const points = pointsIn(one, 400)
        const counted =
          points.reduce((sum, at) => sum + shareAfter({ from: other.from + at, to: other.to + at }, time), 0) /
          points.length
        expect(sumIsAfter(one, other, time)).toBeCloseTo(counted, 2)
      }),
    )
  })

  it('an earlier loss never raises a window, and a longer period never lowers it', () => {
    fc.assert(
      fc.property(
        span,
        span,
        fc.integer({ min: 1, max: 500 }),
        fc.integer({ min: 0, max: 4000 }),
        (loss, period, shift, time) => {
          const earlier = { from: loss.from - shift, to: loss.to - shift }
          const longer = { from: period.from + shift, to: period.to + shift }
          expect(sumIsAfter(earlier, period, time)).toBeLessThanOrEqual(sumIsAfter(loss, period, time) + 1e-12)
          expect(sumIsAfter(loss, longer, time)).toBeGreaterThanOrEqual(sumIsAfter(loss, period, time) - 1e-12)
        },
      ),
    )
  })
})

describe('overwriting', () => {
  it('leaves everything where nothing was written, and less the more was', () => {
    expect(wholeAfterWriting({ written: 0, free: 1e9, fileBytes: 3e6 })).toBe(1)
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 1e9 }), fc.integer({ min: 0, max: 1e9 }), (less, more) => {
        const left = (written: number) => wholeAfterWriting({ written, free: 32e9, fileBytes: 4e6 })
        expect(left(less + more)).toBeLessThanOrEqual(left(less))
        const laid = (written: number, place: number) => wholeWhereLaid({ written, free: 32e9, setBytes: 4e8 }, place)
        expect(laid(less + more, 0.5)).toBeLessThanOrEqual(laid(less, 0.5))
        expect(laid(less, 0.2)).toBeLessThanOrEqual(laid(less, 0.8))
      }),
    )
  })

  it('follows exp(−(W/b)(L+b)/F)', () => {
    // 2 GB in runs of 4 MB into 20 GB free, a file of 6 MB: 500 runs × 10 MB / 20 GB = 0.25
    expect(wholeAfterWriting({ written: 2e9, free: 20e9, fileBytes: 6e6 })).toBeCloseTo(Math.exp(-0.25), 12)
  })

  it('a larger file is hit more often, and writing counts up to the free space', () => {
    const left = (fileBytes: number) => wholeAfterWriting({ written: 1e9, free: 20e9, fileBytes })
    expect(left(90e6)).toBeLessThan(left(3e6))
    expect(wholeAfterWriting({ written: 50e9, free: 10e9, fileBytes: 4e6 })).toBe(
      wholeAfterWriting({ written: 10e9, free: 10e9, fileBytes: 4e6 }),
    )
  })

  it('a card that fills from its start loses its first bytes only', () => {
    const full = { free: 32e9, setBytes: 32e9 }
    expect([0.2, 0.3].map((place) => wholeWhereLaid({ written: 8e9, ...full }, place))).toEqual([0, 1])
    expect(wholeWhereLaid({ written: 8e9, free: 32e9, setBytes: 0 }, 0.5)).toBe(0.75)
    expect(wholeWhereLaid({ written: 64e9, ...full }, 1)).toBe(0)
  })
})

describe('odds', () => {
  it('show the mean, within a range that narrows with more runs', () => {
    const odds = (chance: number, weight: number) => oddsOf({ id: 'x', prior: { chance, weight, note: 'test' } })
    for (const chance of [0.05, 0.3, 0.5, 0.93]) {
      const few = odds(chance, 5)
      const many = odds(chance, 500)
      expect(few[1]).toBe(chance)
      expect(few[0]).toBeLessThanOrEqual(few[1])
      expect(few[2]).toBeGreaterThanOrEqual(few[1])
      expect(many[2] - many[0]).toBeLessThan(few[2] - few[0])
    }
    expect(odds(0, 10)).toEqual([0, 0, 0])
  })
})

describe('opening hours', () => {
  // Tuesday 24 November 2026, 16:30 in UTC; the shop closes at 17:30.
  const tuesday = Date.UTC(2026, 10, 24, 16, 30)

  it('work resumes the next morning when the shop closes', () => {
    expect(workClock(tuesday, shop).after(0)).toBe(tuesday)
    expect(workClock(tuesday, shop).after(60)).toBe(tuesday + HOUR_MS)
    expect(workClock(tuesday, shop).after(90)).toBe(Date.UTC(2026, 10, 25, 9, 30))
  })

  it('jumps over a Sunday', () => {
    const saturday = Date.UTC(2026, 10, 28, 12, 30)
    expect(workClock(saturday, shop).after(45)).toBe(Date.UTC(2026, 10, 30, 9, 15))
    expect(nextOpening(saturday + 2 * HOUR_MS, shop)).toBe(Date.UTC(2026, 10, 30, 9, 0))
  })

  it('keeps to the clock on the wall when it is put back', () => {
    const zone = 'Europe/London'
    const friday = Date.UTC(2026, 9, 23, 16, 0) // 17:00 there, summer time ends on Sunday
    expect(
      workClock(friday, { ...shop, zone, hours: [shop.hours[0], null, null, null, shop.hours[4], null, null] }).after(
        60,
      ),
    ).toBe(Date.UTC(2026, 9, 26, 9, 30))
  })

  it('a shop that never opens is not waited for without end', () => {
    const never = { ...shop, hours: [null, null, null, null, null, null, null] as typeof shop.hours }
    expect(workClock(tuesday, never).after(30)).toBe(tuesday + 30 * 60_000)
  })
})
