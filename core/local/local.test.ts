import { afterEach, describe, expect, it } from 'vitest'
import fc from 'fast-check'
import { readTime } from '../cases/telling/saying/times'
import { readSize, sayBytes } from '../cases/telling/saying/amounts'
import { momentWords } from '../cases/telling/words'
import { DAY_MS, momentOf } from '../cases/shape/moment'
import { timeWords } from './dates'
import { DEFAULT_LANGUAGE, LANGUAGES, isMonthFirst, speak } from './language'
import { editableNumber, moneyWords, numberWords, readNumber } from './numbers'

const now = Date.parse('2026-11-24T10:42:00Z')
const noon = Date.parse('2026-03-05T12:00:00Z')
const saying = { now, zone: 'UTC', direction: 'past' } as const
afterEach(() => speak(DEFAULT_LANGUAGE))

describe('the language of dates and numbers', () => {
  it('orders a date and separates a number as its readers do', async () => {
    const written = async (tag: (typeof LANGUAGES)[number]) => {
      await speak(tag)
      return [timeWords(noon, 'UTC', 'EEE d MMM yyyy, HH:mm'), numberWords(12500.5), moneyWords(1250, 'EUR')]
    }
    expect(await written('en-GB')).toEqual(['Thu 5 Mar 2026, 12:00', '12,500.5', '€1,250'])
    expect(await written('en-US')).toEqual(['Thu Mar 5, 2026, 12:00', '12,500.5', '€1,250'])
    expect(await written('de')).toEqual(['Do. 5. März 2026, 12:00', '12.500,5', '1.250\u00a0€'])
    expect((await written('fr'))[0]).toBe('jeu. 5 mars 2026, 12:00')
  })

  it('takes 3/11 for March where months stand first, and for November elsewhere', async () => {
    const monthOf = () => {
      const read = readTime('3/11', saying)
      return read.ok && 'from' in read.moment ? String(read.moment.from).slice(5, 7) : null
    }
    expect([isMonthFirst(), monthOf()]).toEqual([false, '11'])
    await speak('en-US')
    expect([isMonthFirst(), monthOf()]).toEqual([true, '03'])
  })

  it('takes a point for thousands where a comma separates decimals, and never guesses at what is no number', async () => {
    expect(['1,250', '1.250', '32,50', '-1', 'free', '', '1,2,3'].map(readNumber)).toEqual([
      1250,
      1.25,
      32.5,
      -1,
      NaN,
      NaN,
      NaN,
    ])
    await speak('de')
    expect(['1.250', '1.250,50', '32.50', '0,002'].map(readNumber)).toEqual([1250, 1250.5, 32.5, 0.002])
  })

  it.each(LANGUAGES)('reads in %s the days and sizes that it writes', async (tag) => {
    await speak(tag)
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 700 }), fc.integer({ min: 0, max: 20 }), (back, long) => {
        const from = Date.parse('2026-11-24T00:00:00Z') - (back + long) * DAY_MS
        const moment = momentOf({ from, to: from + (long + 1) * DAY_MS - 60_000 }, '')
        const words = momentWords(moment, 'UTC', now)
        const read = readTime(words, saying)
        expect(read.ok ? { ...read.moment, said: '' } : words).toEqual(moment)
      }),
    )
    fc.assert(
      fc.property(fc.double({ noNaN: true, min: -1e6, max: 1e6 }), (any) => {
        const number = Number(any.toFixed(6))
        expect(readNumber(editableNumber(number))).toBeCloseTo(number, 6)
        expect(readNumber(numberWords(number, { maximumFractionDigits: 6 }))).toBeCloseTo(number, 6)
      }),
    )
    for (const bytes of [4.1e9, 12.5e9, 128e9, 980]) expect(readSize(sayBytes(bytes))).toMatchObject({ amount: bytes })
  })
})
