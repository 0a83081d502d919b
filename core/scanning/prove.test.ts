import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { fileOf } from '../testing/media-images'
import { bytesSource } from '../sources/source'
import { prove } from './prove'

const png = fileOf('two-volumes', 'plan.png')
const after = (bytes: Uint8Array, more: number) => {
  const longer = new Uint8Array(bytes.length + more)
  longer.set(bytes)
  for (let at = bytes.length; at < longer.length; at++) longer[at] = (at * 31) & 255
  return bytesSource(longer)
}

describe('content checked against its structure', () => {
  it('is proved under its own name and under a wrong one, where it ends where its record does', () => {
    expect(prove(bytesSource(png), 'plan.png', 512).verdict).toBe('proves')
    expect(prove(bytesSource(png), 'plan.jpg', 512).verdict).toBe('proves')
    expect(prove(bytesSource(png), 'plan', 512).verdict).toBe('proves')
  })

  it('under a wrong name agrees with what little a writer leaves behind the end', () => {
    expect(prove(after(png, 300), 'plan.jpg', 512).verdict).toBe('agrees')
  })

  it('is another file where it has a wrong name and ends long before its record does', () => {
    expect(prove(after(png, 40_000), 'barge.mov', 512)).toMatchObject({ verdict: 'contradicts', walk: null })
    // Under its own name it is its own beginning, at least.
    expect(prove(after(png, 40_000), 'plan.png', 512).walk).not.toBe(null)
  })

  it('says nothing about content of no known format, and detects when nothing is left', () => {
    expect(prove(bytesSource(Uint8Array.from({ length: 4000 }, (_, at) => at & 255)), 'a.dat', 512).verdict).toBe(
      'silent',
    )
    expect(prove(bytesSource(new Uint8Array(4000)), 'a.jpg', 512)).toMatchObject({
      verdict: 'contradicts',
      isNothing: true,
    })
  })

  it('is a whole file of another type under some names, and of its own type under others', () => {
    const isOther = (name: string) => prove(bytesSource(png), name, 512).isOtherType
    expect(['plan.png', 'plan.jpg', 'plan.dat', 'plan'].map(isOther)).toEqual([false, false, false, false])
    expect(['plan.mov', 'plan.mp3', 'plan.pdf', 'plan.sqlite'].map(isOther)).toEqual([true, true, true, true])
  })
})

describe('content of which nothing is left', () => {
  const isNothing = (bytes: Uint8Array) => prove(bytesSource(bytes), 'levels.dat', 4096).isNothing
  const filled = (size: number, value: number) => new Uint8Array(size).fill(value)

  it('is all zeros or all ones, to the last byte', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 20_000 }), fc.constantFrom(0, 0xff), fc.nat(), (size, value, place) => {
        const bytes = filled(size, value)
        expect(isNothing(bytes)).toBe(true)
        bytes[place % size]! ^= 0xff
        expect(isNothing(bytes)).toBe(size === 1)
      }),
      { numRuns: 60 },
    )
  })

  it('is not judged by its beginning and end alone', () => {
    const recording = filled(3 * 1024 * 1024, 0)
    recording[1024 * 1024 + 17] = 1
    expect(isNothing(recording)).toBe(false)
    expect(isNothing(filled(3 * 1024 * 1024, 0xff))).toBe(true)
  })

  it('is none where there never was any, nor where one other byte is repeated', () => {
    expect(isNothing(new Uint8Array(0))).toBe(false)
    expect(isNothing(filled(5000, 0x20))).toBe(false)
  })
})
