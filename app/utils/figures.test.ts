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

/** How colours look without one kind of cone (G. Machado et al., 2009, severity 1), on linear light. */
const EYES: Record<string, readonly (readonly [number, number, number])[]> = {
  'all cones': [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ],
  'no red cones': [
    [0.152286, 1.052583, -0.204868],
    [0.114503, 0.786281, 0.099216],
    [-0.003882, -0.048116, 1.051998],
  ],
  'no green cones': [
    [0.367322, 0.860646, -0.227968],
    [0.280085, 0.672501, 0.047413],
    [-0.01182, 0.04294, 0.968881],
  ],
  'no blue cones': [
    [1.255528, -0.076749, -0.178779],
    [-0.078411, 0.930809, 0.147602],
    [0.004733, 0.691367, 0.3039],
  ],
}

describe('the ramp of lit cells', () => {
  const linear = (channel: number) => {
    const part = channel / 255
    return part <= 0.04045 ? part / 12.92 : ((part + 0.055) / 1.055) ** 2.4
  }
  /** relative luminance as WCAG 2.2 defines it, of a colour as these eyes see it */
  const luminance = (reach: number, eyes: readonly (readonly [number, number, number])[]) => {
    const light = reachColour(reach)
      .match(/\d+/g)!
      .map((channel) => linear(Number(channel)))
    const seen = eyes.map((row) => row.reduce((sum, weight, at) => sum + weight * light[at]!, 0))
    return 0.2126 * seen[0]! + 0.7152 * seen[1]! + 0.0722 * seen[2]!
  }

  it.each(Object.keys(EYES))('grows lighter with what is reached for eyes with %s', (name) => {
    const at = (reach: number) => luminance(reach, EYES[name]!)
    for (let step = 1; step <= 20; step++) expect(at(step / 20)).toBeGreaterThan(at((step - 1) / 20))
    // A quarter more is visible at a glance anywhere on the ramp.
    for (const reach of [0, 0.25, 0.5, 0.75])
      expect((at(reach + 0.25) + 0.05) / (at(reach) + 0.05)).toBeGreaterThan(1.3)
  })
})
