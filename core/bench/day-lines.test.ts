import { expect, it } from 'vitest'
import { dayLines, gapOf } from './day-lines'

const day = (name: string | null, count: number, expected: number | null = null) => ({
  day: name,
  count,
  selected: 0,
  verified: 0,
  expected,
})

it('consecutive days without finds share one line; items without a date get their own', () => {
  const lines = dayLines([
    day('2026-11-01', 3),
    day('2026-11-02', 0, 2),
    day('2026-11-03', 0, 3),
    day('2026-11-04', 1),
    day('2026-11-05', 0),
    day(null, 0),
  ])
  expect(lines.map(({ day: from, until, expected }) => [from, until, expected])).toEqual([
    ['2026-11-01', null, null],
    ['2026-11-02', '2026-11-03', 5],
    ['2026-11-04', null, null],
    ['2026-11-05', null, null],
    [null, null, null],
  ])
})

it('a gap is what is missing of what was expected, and none where nothing was', () => {
  expect([gapOf(day('x', 0, 4)), gapOf(day('x', 2, 4)), gapOf(day('x', 3, 4)), gapOf(day('x', 0))]).toEqual([
    'all',
    'part',
    null,
    null,
  ])
})
