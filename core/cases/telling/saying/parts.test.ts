import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { NOW } from '../../../testing/case-with'
import { readNumber, readPeriod, readSizeRange, sayByteRange, sayDays } from './amounts'
import { crowdWords, partWords, readCrowds, readPart } from './parts'

const context = { now: NOW, zone: 'Europe/London' }

describe('which part of a set there is', () => {
  it.each([
    ['all of them', 'all'],
    ['none', 'none'],
    ['about 40', { count: 40 }],
    ['a dozen of them', { count: 12 }],
    ['half', { share: 0.5 }],
    ['most of them', { share: 0.8 }],
    ['20 %', { share: 0.2 }],
  ])('“%s”', (said, part) => expect(readPart(said, context)).toEqual({ ok: true, read: part }))

  it('can be dates', () => {
    const read = readPart('only those of 2024', context)
    expect(read.ok && read.read).toMatchObject({ from: '2024-01-01T00:00:00.000Z' })
    expect(readPart('the good ones', context)).toMatchObject({ ok: false })
  })

  it('is said so that it reads again as the same', () => {
    fc.assert(
      fc.property(
        fc.oneof(
          fc.constantFrom('all' as const, 'none' as const),
          fc.record({ count: fc.integer({ min: 1, max: 90_000 }) }),
          fc.integer({ min: 1, max: 100 }).map((percentage) => ({ share: percentage / 100 })),
        ),
        (part) => {
          const said = partWords(part, context)!
          expect(readPart(said, context)).toEqual({ ok: true, read: part })
        },
      ),
    )
  })
})

describe('when most of them were made', () => {
  it.each([
    ['august', [0.8]],
    ['most in august', [0.8]],
    ['nearly all on 19 sep', [0.95]],
    ['half on 12 sep; a quarter on 13 sep', [0.5, 0.25]],
    ['30% in march', [0.3]],
  ])('“%s”', (said, shares) => {
    const read = readCrowds(said, context)
    expect(read.ok && read.read?.map(({ share }) => share)).toEqual(shares)
    const again = read.ok && read.read && readCrowds(crowdWords(read.read, context), context)
    expect(again && again.ok && again.read?.map(({ share }) => share)).toEqual(shares)
  })

  it('evenly is no part, more than all of them is refused', () => {
    expect(readCrowds('evenly', context)).toEqual({ ok: true, read: null })
    expect(readCrowds('most in may; most in june', context)).toMatchObject({
      ok: false,
      message: expect.stringMatching(/more than all/),
    })
  })
})

describe('amounts that are ranges', () => {
  it.each([
    ['2 to 5 GB', 2e9, 5e9],
    ['between 500 MB and 2 GB', 0.5e9, 2e9],
    ['up to 3 gb', 0, 3e9],
    ['2-5 GB', 2e9, 5e9],
    ['nothing', 0, 0],
    ['4.1 GB', 4.1e9, 4.1e9],
  ])('“%s”', (said, from, to) => expect(readSizeRange(said)).toEqual({ ok: true, from, to }))
  it.each(['5 to 2 GB', 'plenty', 'GB', '2 to', 'constructor'])('“%s” is refused', (said) =>
    expect(readSizeRange(said).ok).toBe(false),
  )

  it.each([
    ['a week', 7, 7],
    ['7 days', 7, 7],
    ['2 to 3 weeks', 14, 21],
    ['for about 30 days', 30, 30],
    ['thirty days', 30, 30],
    ['a year', 365, 365],
  ])('“%s” is a period', (said, from, to) => expect(readPeriod(said)).toEqual({ ok: true, from, to }))
  it.each(['3 to 2 weeks', 'for ever', '900 years'])('“%s” is none', (said) => expect(readPeriod(said).ok).toBe(false))

  it.each([
    ['eight', 8],
    ['none', 0],
    ['3 times', 3],
    ['about 5 tries', 5],
  ])('“%s” is a number', (said, amount) => expect(readNumber(said)).toEqual({ ok: true, amount }))

  it('are said so that they read again as the same', () => {
    const megabytes = fc.integer({ min: 1, max: 999 }).map((amount) => amount * 1e6)
    fc.assert(
      fc.property(megabytes, megabytes, (one, other) => {
        const range = { from: Math.min(one, other), to: Math.max(one, other) }
        expect(readSizeRange(sayByteRange(range))).toEqual({ ok: true, ...range })
      }),
    )
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 3000 }), fc.integer({ min: 0, max: 600 }), (from, more) => {
        expect(readPeriod(sayDays(from, from + more))).toEqual({ ok: true, from, to: from + more })
      }),
    )
    fc.assert(
      fc.property(
        // Words that every object knows are words like others.
        fc.oneof(fc.string(), fc.constantFrom('constructor', '__proto__', 'toString', 'valueOf')),
        (said) =>
          void [
            readSizeRange(said),
            readPeriod(said),
            readNumber(said),
            readPart(said, context),
            readCrowds(said, context),
          ],
      ),
    )
  })
})
