import fc from 'fast-check'
import { deflate, deflateRaw } from 'pako'
import { describe, expect, it } from 'vitest'
import { crc32 as referenceCrc32 } from 'node:zlib'
import { adler32, crc16Forward, crc32, crc32Forward, crc32Of, crc8Forward } from './checksums'
import { inflated, inflatedStream, Unpacking, unpackedStream } from './inflate'

/** What every catalogue of such sums gives for these nine characters. */
const CHECK = new TextEncoder().encode('123456789')

describe('the checksums', () => {
  it('give what their definitions say of the check word', () => {
    expect(crc32(CHECK)).toBe(0xcbf43926)
    expect(crc16Forward(CHECK)).toBe(0xfee8)
    expect(crc8Forward(CHECK)).toBe(0xf4)
    expect(crc32Forward(CHECK)).toBe(0x89a1897f)
    expect(adler32(CHECK)).toBe(0x091e01de)
  })

  it('can be continued from part to part', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 9000 }), fc.nat(9000), (bytes, cut) => {
        const [first, rest] = [bytes.subarray(0, cut), bytes.subarray(cut)]
        expect(crc32(rest, crc32(first))).toBe(crc32(bytes))
        expect(adler32(rest, adler32(first))).toBe(adler32(bytes))
        expect(crc16Forward(rest, crc16Forward(first))).toBe(crc16Forward(bytes))
        expect(crc32Forward(rest, crc32Forward(first))).toBe(crc32Forward(bytes))
        expect(crc32Of(crc32(first), crc32(rest), rest.length)).toBe(crc32(bytes))
        if (referenceCrc32) expect(crc32(bytes)).toBe(referenceCrc32(bytes))
      }),
    )
  })
})

describe('packed data', () => {
  const content = fc.uint8Array({ maxLength: 5000 }).map((bytes) => Uint8Array.from([...bytes, ...bytes]))

  it('is proved to its very end, whatever follows', () => {
    fc.assert(
      fc.property(content, fc.uint8Array({ maxLength: 50 }), (bytes, rest) => {
        const raw = deflateRaw(bytes)
        const told = inflated(Uint8Array.from([...raw, ...rest]), 1e6)
        expect(told).toMatchObject({ bytes: bytes.length, used: raw.length, crc: crc32(bytes), adler: adler32(bytes) })
        const stream = deflate(bytes)
        expect(inflatedStream(Uint8Array.from([...stream, ...rest]), 1e6)?.used).toBe(stream.length)
        expect(Buffer.compare(unpackedStream(stream, 1e6)!, bytes)).toBe(0)
      }),
      { numRuns: 40 },
    )
  })

  it('can be resumed from any place, more than once', () => {
    fc.assert(
      fc.property(content, fc.double({ min: 0, max: 1, noNaN: true }), (bytes, part) => {
        const raw = deflateRaw(bytes)
        const cut = Math.floor(raw.length * part)
        const first = new Unpacking(1e6)
        first.push(raw.subarray(0, cut))
        const second = first.copy()
        first.push(new Uint8Array(300).fill(0x5a))
        second.push(raw.subarray(cut))
        expect(second).toMatchObject({ state: 'ended', so: { bytes: bytes.length, crc: crc32(bytes) } })
      }),
      { numRuns: 40 },
    )
  })

  it('is none where it is cut off, where its sum is wrong, or where it gives more than it may', () => {
    const stream = deflate(new Uint8Array(100_000))
    expect(unpackedStream(stream.subarray(0, stream.length - 1), 1e6)).toBeNull()
    const changed = stream.slice()
    changed[changed.length - 1]! ^= 1
    expect(unpackedStream(changed, 1e6)).toBeNull()
    expect(unpackedStream(stream, 99_999)).toBeNull()
    expect(inflatedStream(Uint8Array.from([0x79, 0x9c, 1, 2, 3, 4, 5]), 1e6)).toBeNull()
  })
})
