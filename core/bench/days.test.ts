import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { dayIn, daysFrom, endsOf } from './days'

const london = 'Europe/London'

describe('days of the shop', () => {
  it('begin at its own midnight, in summer and in winter', () => {
    expect(dayIn(london, Date.parse('2026-07-14T23:30:00Z'))).toBe('2026-07-15')
    expect(dayIn(london, Date.parse('2026-11-14T23:30:00Z'))).toBe('2026-11-14')
    expect(dayIn('Asia/Kathmandu', Date.parse('2026-11-14T18:16:00Z'))).toBe('2026-11-15')
  })

  it('of a month are all of them', () => {
    expect(endsOf('2026-02')).toEqual({ first: '2026-02-01', last: '2026-02-28' })
    expect(endsOf('2028-02').last).toBe('2028-02-29')
    expect(endsOf('2026-12').last).toBe('2026-12-31')
    expect(endsOf('2026-12-24')).toEqual({ first: '2026-12-24', last: '2026-12-24' })
  })

  it('follow each other without a gap, also over a change of the clock', () => {
    expect(daysFrom('2026-03-28', '2026-03-30')).toEqual(['2026-03-28', '2026-03-29', '2026-03-30'])
    expect(daysFrom('2026-03-30', '2026-03-28')).toEqual([])
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 20_000 }), fc.integer({ min: 0, max: 400 }), (from, count) => {
        const at = (day: number) => new Date(day * 86_400_000).toISOString().slice(0, 10)
        const days = daysFrom(at(from), at(from + count))
        expect(days).toEqual(Array.from({ length: count + 1 }, (_, index) => at(from + index)))
      }),
    )
  })
})
