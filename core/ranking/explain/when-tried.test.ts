import { describe, expect, it } from 'vitest'
import type { PlanOption } from '../situation/plan-shape'
import { priceWords, railOf, whenTriedWords } from './when-tried'

const option = (more: Partial<PlanOption>): PlanOption => ({
  id: 'a',
  kind: 'a',
  family: 'look',
  copy: null,
  title: 'A',
  standing: 'plan',
  chance: [0.4, 0.5, 0.6],
  share: [0.9, 0.95, 1],
  expected: 0.475,
  tried: 1,
  until: null,
  after: null,
  beginAtOnce: false,
  worthFrom: null,
  closes: [null, null],
  minutes: { handsOn: 5, waiting: 0 },
  money: { look: 0, take: 0 },
  harm: 0,
  reach: {},
  factors: [],
  says: 'x',
  ...more,
})

describe('when a route is still tried', () => {
  it.each([
    [{ tried: 1, id: 'first' }, 'first'],
    [{ tried: 0.97 }, null],
    [{ tried: 0.4, until: 1 }, 'only if less than all came back'],
    [{ tried: 0.4, until: 0.72 }, 'only if less than 7 in 10 came back'],
    [{ tried: 0.4, until: 0.06 }, 'only if less than 6 in 100 came back'],
    [{ tried: 0.18 }, 'in 18 of 100 cases'],
    [{ tried: 0.3, after: 'second' }, 'only if route 2 worked'],
    [{ tried: 0.04, until: 0.5 }, 'hardly ever needed'],
    [
      { tried: 0.4, beginAtOnce: true, minutes: { handsOn: 5, waiting: 2880 } },
      'begin at once: the answer takes 2 days',
    ],
  ])('%j: %s', (more, words) => expect(whenTriedWords(option(more), ['first', 'second', 'a'])).toBe(words))

  it('looking and taking are priced apart', () => {
    const price = (look: number, take: number) => priceWords({ money: { look, take } }, (sum) => `£${sum}`)
    expect(price(80, 520)).toBe('£80 to look, £520 if it works')
    expect([price(0, 40), price(50, 0), price(0, 0)]).toEqual(['£40 if it works', '£50, whether it works or not', null])
  })
})

describe('the rail beside the rows', () => {
  it('is as wide as the chance that it comes so far, and what leaves it is what has enough', () => {
    const options = [
      option({ id: 'a', tried: 1 }),
      option({ id: 'b', tried: 0.4 }),
      option({ id: 'c', tried: 0.3, beginAtOnce: true }),
      option({ id: 'd', tried: 0.1 }),
    ]
    const rail = railOf({ order: ['a', 'b', 'c', 'd'], options })
    expect(rail.get('a')).toEqual({ into: 1, onward: 0.4, stops: 0.6, hangs: false })
    expect(rail.get('b')).toMatchObject({ into: 0.4, onward: 0.1 })
    expect(rail.get('c')).toEqual({ into: 0.4, onward: 0.1, stops: 0, hangs: true })
    expect(rail.get('d')).toMatchObject({ into: 0.1, onward: 0, hangs: false })
  })
})
