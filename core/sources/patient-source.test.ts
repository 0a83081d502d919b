import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { PatientSource, UnreadableError } from './patient-source'
import type { ByteSource } from './source'

const SIZE = 12_000
const CONTENT = Uint8Array.from({ length: SIZE }, (_, at) => (at * 7 + (at >> 8)) & 255)

/** A medium whose bad sectors fail every read that touches them, until they are well again. */
function medium(bad: Set<number>): ByteSource & { reads: number } {
  const source = {
    size: SIZE,
    reads: 0,
    read: (offset: number, length: number) => {
      source.reads++
      for (let at = offset; at < Math.min(SIZE, offset + length); at++)
        if (bad.has(Math.floor(at / 512))) throw new UnreadableError(offset, length)
      return CONTENT.subarray(offset, Math.min(SIZE, offset + length))
    },
  }
  return source
}

describe('a medium with bad sectors', () => {
  it('gives every byte of the good ones, zeros for the bad ones, and counts them', () => {
    fc.assert(
      fc.property(
        fc.uniqueArray(fc.nat(23), { maxLength: 20 }),
        fc.nat(SIZE),
        fc.integer({ min: 1, max: SIZE }),
        (sectors, offset, length) => {
          const bad = new Set(sectors)
          const source = new PatientSource(medium(bad))
          const wanted = CONTENT.slice(offset, offset + length).map((byte, at) =>
            bad.has(Math.floor((offset + at) / 512)) ? 0 : byte,
          )
          expect(source.read(offset, length)).toEqual(wanted)
          const touched = sectors.filter(
            (sector) => sector * 512 < Math.min(SIZE, offset + length) && (sector + 1) * 512 > offset && offset < SIZE,
          )
          expect(source.unreadableBytes).toBe(
            touched.reduce((sum, sector) => sum + Math.min(512, SIZE - sector * 512), 0),
          )
        },
      ),
    )
  })

  it('is not asked for what failed once before the end, and then once more', () => {
    const bad = new Set([10, 11])
    const inner = medium(bad)
    const source = new PatientSource(inner)
    source.read(0, SIZE)
    expect(source.unreadable()).toEqual([[5120, 1024]])
    const before = inner.reads
    source.read(10 * 512, 1024)
    expect(inner.reads).toBe(before)
    bad.delete(11)
    expect(source.retry()).toEqual([[11 * 512, 512]])
    expect(source.unreadable()).toEqual([[5120, 512]])
    expect(source.read(11 * 512, 512)).toEqual(CONTENT.subarray(11 * 512, 12 * 512))
  })

  it('lets faults through that are none of the medium', () => {
    const source = new PatientSource({
      size: 10,
      read: () => {
        throw new Error('the program is wrong')
      },
    })
    expect(() => source.read(0, 1)).toThrow('the program is wrong')
  })
})
