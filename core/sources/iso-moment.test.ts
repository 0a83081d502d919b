import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { isoMoment } from './iso-moment'

describe('an instant in words', () => {
  it('is the one that the language gives, before 1970 and far behind it too', () => {
    const far = 253_402_300_799_999
    fc.assert(
      fc.property(fc.oneof(fc.integer({ min: -62_135_596_800_000, max: far }), fc.nat(2 ** 31)), (ms) => {
        expect(isoMoment(ms)).toBe(new Date(ms).toISOString())
      }),
    )
    expect(isoMoment(0)).toBe('1970-01-01T00:00:00.000Z')
    expect(isoMoment(-1)).toBe('1969-12-31T23:59:59.999Z')
    expect(isoMoment(far)).toBe('9999-12-31T23:59:59.999Z')
  })
})
