import { describe, expect, it } from 'vitest'
import { minutesWords, percent, reachColour } from './figures'

describe('figures as they are shown', () => {
  it.each([
    [0, '0%'],
    [0.004, 'under 1%'],
    [0.664, '66%'],
    [1, '100%'],
  ])('a share of %d', (share, words) => expect(percent(share)).toBe(words))

  it.each([
    [3.4, '3 min'],
    [89, '89 min'],
    [120, '2 h'],
    [150, '2 h 30'],
    [1440, '1 day'],
    [14_400, '10 days'],
  ])('%d minutes', (minutes, words) => expect(minutesWords(minutes)).toBe(words))

  it('a cell is lit more brightly the more is reached, from dark to light', () => {
    const light = (reach: number) =>
      reachColour(reach)
        .match(/\d+/g)!
        .map(Number)
        .reduce((sum, channel) => sum + channel, 0)
    const ramp = Array.from({ length: 41 }, (_, index) => light(index / 40))
    ramp.forEach((value, index) => index > 0 && expect(value).toBeGreaterThanOrEqual(ramp[index - 1]!))
    expect(reachColour(0)).toBe('rgb(48 37 32)')
    expect(reachColour(1)).toBe('rgb(255 226 150)')
    expect(reachColour(7)).toBe(reachColour(1))
  })
})
