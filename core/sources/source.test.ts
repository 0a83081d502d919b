import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { Reader } from './reader'
import { aheadSource, bytesSource, HOLE, piecesSource, sliceSource, type ByteSource, type Extent } from './source'

const BYTES = Uint8Array.from({ length: 5000 }, (_, at) => (Math.imul(at + 1, 2654435761) >>> 17) & 255)
const whole = bytesSource(BYTES)

const stretch = fc.tuple(fc.oneof(fc.constant(HOLE), fc.nat(6000)), fc.integer({ min: 1, max: 900 }))
const asked = fc.tuple(fc.nat(6000), fc.nat(2000))

describe('a file in pieces', () => {
  it('reads its pieces in order, with holes and whatever is beyond the end as zeros', () => {
    fc.assert(
      fc.property(fc.array(stretch, { minLength: 1, maxLength: 6 }), asked, (pieces, [offset, length]) => {
        const extents: Extent[] = pieces
        const plain = extents.flatMap(([at, bytes]) =>
          Array.from({ length: bytes }, (_, index) => (at === HOLE ? 0 : (BYTES[at + index] ?? 0))),
        )
        const source = piecesSource(whole, extents)
        expect(source.size).toBe(plain.length)
        expect([...source.read(offset, length)]).toEqual(plain.slice(offset, offset + length))
      }),
    )
  })

  it('is nothing without pieces', () => {
    expect(piecesSource(whole, []).read(0, 10)).toHaveLength(0)
  })
})

describe('part of a source', () => {
  it('ends where it ends, and where the source does', () => {
    expect(sliceSource(whole, 4990, 100).size).toBe(10)
    expect([...sliceSource(whole, 100, 4).read(2, 50)]).toEqual([...BYTES.subarray(102, 104)])
    expect(sliceSource(whole, 100, 4).read(9, 5)).toHaveLength(0)
  })
})

describe('what is read ahead', () => {
  function counted(bytes: Uint8Array): ByteSource & { reads: number } {
    const source = bytesSource(bytes)
    const own = {
      size: source.size,
      reads: 0,
      read: (at: number, length: number) => (own.reads++, source.read(at, length)),
    }
    return own
  }

  it('reads the same bytes in any order of requests', () => {
    const source = aheadSource(whole)
    fc.assert(
      fc.property(fc.array(asked, { maxLength: 12 }), (all) => {
        for (const [offset, length] of all)
          expect([...source.read(offset, length)]).toEqual([...BYTES.subarray(offset, offset + length)])
      }),
    )
  })

  it('saves reads only where one follows another', () => {
    const inOrder = counted(new Uint8Array(2_000_000))
    const near = aheadSource(inOrder)
    for (let at = 0; at < 2_000_000; at += 4096) near.read(at, 2000)
    expect(inOrder.reads).toBeLessThan(6)
    const scattered = counted(new Uint8Array(2_000_000))
    const far = aheadSource(scattered)
    for (let at = 1_900_000; at > 0; at -= 300_000) expect(far.read(at, 2000)).toHaveLength(2000)
    expect(scattered.reads).toBe(7)
  })
})

describe('numbers out of a source', () => {
  it('are the bytes of the source, whatever the window', () => {
    const view = new DataView(BYTES.buffer)
    fc.assert(
      fc.property(fc.array(fc.nat(4992), { maxLength: 20 }), fc.constantFrom(16, 64, 4096), (places, window) => {
        const reader = new Reader(whole, 512, window)
        for (const at of places) {
          expect(reader.u8(at)).toBe(view.getUint8(at))
          expect(reader.u16be(at)).toBe(view.getUint16(at))
          expect(reader.u32le(at)).toBe(view.getUint32(at, true))
          const wide = view.getBigUint64(at, true)
          expect(reader.u64le(at)).toBe(wide > 2n ** 53n - 1n ? Infinity : Number(wide))
        }
      }),
    )
  })

  it('are zero beyond the end, and text is as long as there is', () => {
    const reader = new Reader(whole)
    expect(reader.u32le(4998)).toBe(0)
    expect(reader.has(4998, 4)).toBe(false)
    expect(reader.text(4998, 10)).toHaveLength(2)
    expect(reader.is(4999, 'ab')).toBe(false)
  })
})
