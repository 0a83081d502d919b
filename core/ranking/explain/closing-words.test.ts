import { describe, expect, it } from 'vitest'
import { DAY_MS, HOUR_MS, isoOf } from '../../cases/shape/moment'
import { closingWords, shorterClosing } from './closing-words'

// Tuesday 24 November 2026, 10:42 in London.
const now = Date.UTC(2026, 10, 24, 10, 42)
const words = (from: number | null, to: number | null = from) =>
  closingWords([from === null ? null : isoOf(now + from), to === null ? null : isoOf(now + to)], now, 'Europe/London')
    .words

describe('when something closes, in words', () => {
  it.each([
    [5.3 * HOUR_MS, 5.3 * HOUR_MS, 'today 16:00'],
    [15.3 * HOUR_MS, 15.8 * HOUR_MS, 'tonight 02:00'],
    [22.8 * HOUR_MS, 23 * HOUR_MS, 'tomorrow 09:30'],
    [14 * DAY_MS, 17 * DAY_MS, 'in 14–17 days'],
    [6 * DAY_MS, 6 * DAY_MS, 'in 6 days'],
    [90 * DAY_MS, 120 * DAY_MS, 'from Feb 2027'],
    [-20 * DAY_MS, -10 * DAY_MS, 'closed 14 Nov'],
    [-2 * DAY_MS, 3 * DAY_MS, 'any day, by Fri 27 Nov'],
    [-2 * HOUR_MS, 2 * HOUR_MS, 'any hour now, by today 12:42'],
    [14 * HOUR_MS, 60 * HOUR_MS, 'from tonight 00:42'],
  ])('%d to %d ms', (from, to, said) => expect(words(from, to)).toBe(said))

  it.each([
    ['in 14–17 days', '14–17 days'],
    ['any day, by Fri 27 Nov', 'by Fri 27 Nov'],
    ['any hour now, by today 12:42', 'by today 12:42'],
    ['today 16:00', 'today 16:00'],
  ])('%s, where there is little room', (long, short) => expect(shorterClosing(long)).toBe(short))

  it('what never closes is open', () => expect(words(null)).toBe('open'))
})
