import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readTime } from './times'

// Tuesday 24 November 2026, 10:42 in London.
const now = Date.UTC(2026, 10, 24, 10, 42)
const past = { now, zone: 'Europe/London', direction: 'past' } as const
const future = { ...past, direction: 'future' } as const

function read(said: string, context: Parameters<typeof readTime>[1] = past): string {
  const answer = readTime(said, context)
  return answer.ok ? `${answer.moment.from.slice(0, 16)} ${answer.moment.to.slice(0, 16)}` : answer.message
}

describe('a time as people say it', () => {
  it.each([
    ['yesterday', '2026-11-23T00:00 2026-11-23T23:59'],
    ['today', '2026-11-24T00:00 2026-11-24T10:42'],
    ['sunday', '2026-11-22T00:00 2026-11-22T23:59'],
    ['last tuesday evening', '2026-11-17T17:00 2026-11-17T22:59'],
    ['between 1 and 5 march', '2026-03-01T00:00 2026-03-05T23:59'],
    ['1 oct to 8 nov', '2026-09-30T23:00 2026-11-08T23:59'],
    ['3 to 8 nov', '2026-11-03T00:00 2026-11-08T23:59'],
    ['sunday to today', '2026-11-22T00:00 2026-11-24T10:42'],
    ['october', '2026-09-30T23:00 2026-10-31T23:59'],
    ['last week', '2026-11-16T00:00 2026-11-22T23:59'],
    ['since monday', '2026-11-23T00:00 2026-11-24T10:42'],
    ['early october', '2026-09-30T23:00 2026-10-10T22:59'],
    ['summer 2025', '2025-05-31T23:00 2025-08-31T22:59'],
    ['2 hours ago', '2026-11-24T08:12 2026-11-24T09:12'],
    ['nov 8 to nov 11', '2026-11-08T00:00 2026-11-11T23:59'],
    ['november 8th', '2026-11-08T00:00 2026-11-08T23:59'],
    ['nov 2025', '2025-11-01T00:00 2025-11-30T23:59'],
    ['some time in october', '2026-09-30T23:00 2026-10-31T23:59'],
    ['over the weekend', '2026-11-21T00:00 2026-11-22T23:59'],
    ['the last 3 weeks', '2026-11-03T10:42 2026-11-24T10:42'],
    ['past week', '2026-11-17T10:42 2026-11-24T10:42'],
    ['the past few days', '2026-11-21T10:42 2026-11-24T10:42'],
    ['the 5th', '2026-11-05T00:00 2026-11-05T23:59'],
    ['the 30th', '2026-10-30T00:00 2026-10-30T23:59'],
    ['the 31st', '2026-10-31T00:00 2026-10-31T23:59'],
    ['yesterday at 3', '2026-11-23T15:00 2026-11-23T15:00'],
    ['yesterday morning at 3', '2026-11-23T03:00 2026-11-23T03:00'],
    ['between 2 and 4 am', '2026-11-24T02:00 2026-11-24T04:00'],
    ['earlier today', '2026-11-24T00:00 2026-11-24T10:42'],
    ['3 days', '2026-11-21T00:00 2026-11-21T23:59'],
  ])('%s', (said, range) => expect(read(said)).toBe(range))

  it.each([
    ['friday', '2026-11-27T00:00 2026-11-27T23:59'],
    ['tonight at 2', '2026-11-25T02:00 2026-11-25T02:00'],
    ['tonight at 02:30', '2026-11-25T02:30 2026-11-25T02:30'],
    ['tonight at 9', '2026-11-24T21:00 2026-11-24T21:00'],
    ['by friday', '2026-11-27T00:00 2026-11-27T23:59'],
    ['5 march', '2027-03-05T00:00 2027-03-05T23:59'],
  ])('ahead: %s', (said, range) => expect(read(said, future)).toBe(range))

  it('"3 weeks ago" is good to half a week either side, and "about" doubles that', () => {
    expect(read('3 weeks ago')).toBe('2026-10-30T00:00 2026-11-06T23:59')
    expect(read('about 3 weeks ago')).toBe('2026-10-27T00:00 2026-11-10T23:59')
  })

  it('a past time never ends after now', () => {
    for (const said of ['today', 'this week', 'november', 'since sunday', '1 hour ago']) {
      const answer = readTime(said, past)
      expect(answer.ok && Date.parse(answer.moment.to)).toBeLessThanOrEqual(now)
    }
  })

  it('keeps the words it was said in', () => {
    const answer = readTime('  Last Tuesday  evening. ', past)
    expect(answer.ok && answer.moment.said).toBe('Last Tuesday  evening.')
  })

  it('says so, with examples, where it cannot read it', () => {
    for (const said of ['', 'the day the boat came', 'xyzzy', '32 march', '99 99 99', 'a'.repeat(500)])
      expect(read(said)).toMatch(/This is not a time/)
  })

  it('never throws, and what it reads is a range in order', () => {
    const words =
      'last next since about between and to ago yesterday monday friday morning noon november 3 24 2026 10:30 days weeks month'.split(
        ' ',
      )
    let count = 0
    fc.assert(
      fc.property(
        fc.oneof(
          fc.string({ maxLength: 60 }),
          fc.array(fc.constantFrom(...words), { maxLength: 6 }).map((some) => some.join(' ')),
        ),
        (said) => {
          const answer = readTime(said, past)
          if (!answer.ok) return
          count++
          expect(Date.parse(answer.moment.from)).toBeLessThanOrEqual(Date.parse(answer.moment.to))
        },
      ),
      { numRuns: 2000 },
    )
    expect(count).toBeGreaterThan(20)
  })
})
