import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { DAY_MS } from '../cases/shape/moment'
import { NOW } from '../testing/case-with'
import { hangTags, LINE_STOPS, MAX_TAGS, type Hanging } from './closing-line'

const WIDTH = 1240
const placeOf = (time: number) => {
  const past = time - NOW
  const upper = LINE_STOPS.findIndex((stop) => stop.ms >= past)
  if (past <= 0) return 20
  if (upper < 0) return WIDTH
  const [low, high] = [LINE_STOPS[upper - 1]!, LINE_STOPS[upper]!]
  return WIDTH * (low.at + ((high.at - low.at) * (past - low.ms)) / (high.ms - low.ms))
}
const hanging = fc
  .record({
    from: fc.integer({ min: -500, max: 7000 }).map((one) => one / 100),
    wide: fc.integer({ min: 0, max: 2000 }).map((one) => one / 100),
    waits: fc.integer({ min: 0, max: 9000 }).map((one) => one / 100),
  })
  .map(({ from, wide, waits }) => ({
    closes: [NOW + from * DAY_MS, NOW + (from + wide) * DAY_MS] as [number, number],
    waits,
  }))
const cases = (most: number) =>
  fc
    .array(hanging, { maxLength: most })
    .map((list) => list.map((one, index): Hanging => ({ ...one, code: `SL-${index}` })))

describe('the closing line', () => {
  it('hangs every case once, inside the line, and no tag covers another', () => {
    fc.assert(
      fc.property(cases(130), (list) => {
        const { tags, height } = hangTags(list, NOW, WIDTH, placeOf)
        expect(tags.flatMap((tag) => tag.codes).sort()).toEqual(list.map((one) => one.code).sort())
        expect(tags.length).toBeLessThanOrEqual(MAX_TAGS)
        for (const [index, tag] of tags.entries()) {
          expect(tag.x).toBeGreaterThanOrEqual(0)
          expect(tag.x + tag.width).toBeLessThanOrEqual(WIDTH)
          expect(tag.y + tag.height).toBeLessThanOrEqual(height)
          for (const other of tags.slice(index + 1)) {
            const apart =
              tag.x + tag.width <= other.x ||
              other.x + other.width <= tag.x ||
              tag.y + tag.height <= other.y ||
              other.y + other.height <= tag.y
            expect(apart).toBe(true)
          }
        }
      }),
      { numRuns: 200 },
    )
  })

  it('goes through the cases in order of time', () => {
    const far = { code: 'far', closes: [NOW + 20 * DAY_MS, NOW + 21 * DAY_MS], waits: 0 } as const
    const near = { code: 'near', closes: [NOW + DAY_MS, NOW + DAY_MS], waits: 0 } as const
    expect(hangTags([far, near], NOW, WIDTH, placeOf).tags.map((tag) => tag.codes[0])).toEqual(['near', 'far'])
  })

  it('hangs what loses more by waiting lower, where both have room', () => {
    const tag = (code: string, waits: number) => ({ code, closes: [NOW + DAY_MS, NOW + DAY_MS] as const, waits })
    const { tags } = hangTags([tag('light', 1), tag('heavy', 50)], NOW, WIDTH, placeOf)
    const y = (code: string) => tags.find((one) => one.codes.includes(code))!.y
    expect(y('heavy')).toBeGreaterThan(y('light'))
  })

  it('groups neighbours in time where there are more than forty', () => {
    const list = Array.from({ length: 90 }, (_, index) => ({
      code: `SL-${index}`,
      closes: [NOW + index * DAY_MS, NOW + index * DAY_MS] as const,
      waits: 0,
    }))
    const { tags } = hangTags(list, NOW, WIDTH, placeOf)
    expect(tags[0]!.codes).toEqual(['SL-0', 'SL-1', 'SL-2', 'SL-3', 'SL-4'])
    expect(tags).toHaveLength(18)
    expect(hangTags(list.slice(0, 40), NOW, WIDTH, placeOf).tags).toHaveLength(40)
  })
})
