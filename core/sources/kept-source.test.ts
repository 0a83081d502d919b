import { expect, it } from 'vitest'
import fc from 'fast-check'
import { keptSource } from './kept-source'
import { bytesSource } from './source'

const SIZE = 3_000_001
const bytes = Uint8Array.from({ length: SIZE }, (_, at) => (at * 31 + (at >> 9)) & 255)

it('gives what the source gives, and asks it once for what is read again', () => {
  let asked = 0
  const counted = {
    size: SIZE,
    read: (offset: number, length: number) => {
      asked += length
      return bytesSource(bytes).read(offset, length)
    },
  }
  const kept = keptSource(counted, 16 << 20)
  const at = fc.integer({ min: 0, max: SIZE + 10 })
  fc.assert(
    fc.property(at, fc.integer({ min: 0, max: 900_000 }), (offset, length) => {
      expect(Buffer.compare(kept.read(offset, length), bytes.subarray(offset, offset + length))).toBe(0)
    }),
  )
  expect(asked).toBeLessThan(2 * SIZE)
})

it('keeps no more than it may', () => {
  let asked = 0
  const counted = {
    size: SIZE,
    read: (offset: number, length: number) => (asked++, bytes.subarray(offset, offset + length)),
  }
  const kept = keptSource(counted, 1 << 20)
  for (const round of [1, 2])
    for (let at = 0; at < SIZE; at += 262_144) expect(kept.read(at, round)).toHaveLength(round)
  expect(asked).toBeGreaterThan(12)
})
