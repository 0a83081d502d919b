import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bytesSource } from '../../../sources/source'
import { CompressedSource, unpack } from './compressed'
import { readRuns, type Run } from './runs'

/** A list of runs as NTFS writes it: how many bytes each number has, how many clusters, how far from the run before. */
function written(runs: readonly Run[]): Uint8Array {
  const bytes: number[] = []
  let before = 0
  const put = (value: number, isSigned: boolean): number => {
    let rest = BigInt(value)
    let count = 0
    do {
      bytes.push(Number(rest & 255n))
      rest >>= 8n
      count++
      const isEnough = isSigned
        ? (rest === 0n && bytes.at(-1)! < 128) || (rest === -1n && bytes.at(-1)! >= 128)
        : rest === 0n
      if (isEnough) return count
    } while (count < 8)
    return count
  }
  for (const { cluster, count } of runs) {
    const at = bytes.length
    bytes.push(0)
    const countBytes = put(count, false)
    const clusterBytes = cluster === null ? 0 : put(cluster - before, true)
    bytes[at] = countBytes | (clusterBytes << 4)
    before = cluster ?? before
  }
  return Uint8Array.from([...bytes, 0])
}

const run = fc.record({
  cluster: fc.option(fc.nat(2 ** 40), { nil: null }),
  count: fc.integer({ min: 1, max: 2 ** 31 }),
})

describe('a list of runs', () => {
  it('reads as it was written, forwards, backwards and over holes', () => {
    fc.assert(
      fc.property(fc.array(run, { maxLength: 12 }), (runs) => {
        expect(readRuns(written(runs))).toEqual(runs)
      }),
    )
  })

  it('ends before a run that cannot be', () => {
    const sound = written([{ cluster: 700, count: 3 }]).slice(0, -1)
    for (const bad of [[0x18, 1], [0x81, 1, 1], [0x11, 0, 5], [0x11, 1, 0x80, 0, 0], [0x31]])
      expect(readRuns(Uint8Array.from([...sound, ...bad])).slice(0, 1)).toEqual([{ cluster: 700, count: 3 }])
    // A step back to before the volume.
    expect(readRuns(Uint8Array.from([0x11, 1, 0x80]))).toEqual([])
  })

  it('does no harm whatever it says', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 60 }), (bytes) => {
        for (const { cluster, count } of readRuns(bytes))
          expect(count > 0 && (cluster === null || cluster >= 0)).toBe(true)
      }),
    )
  })
})

const CLUSTER = 512
const UNIT = 4

describe('a compressed file', () => {
  // Eight signs as they are, then one reference: eight back, eight long.
  const packed = Uint8Array.from([0x0b, 0xb0, 0x00, 0x61, 0x62, 0x63, 0x64, 0x65, 0x66, 0x67, 0x68, 0x01, 0x05, 0x70])

  it('is unpacked with its references back, each as long as it says', () => {
    const out = new Uint8Array(32)
    unpack(packed, out)
    const text = new TextDecoder().decode(out).replace(/\0+$/, '')
    expect(text).toBe('abcdefghabcdefgh')
  })

  it('reads units that are plain, packed and never written', () => {
    const volume = new Uint8Array(40 * CLUSTER)
    const plain = Uint8Array.from({ length: UNIT * CLUSTER }, (_, at) => at % 251)
    volume.set(plain, 8 * CLUSTER)
    volume.set(packed, 20 * CLUSTER)
    const runs: Run[] = [
      { cluster: 8, count: UNIT },
      { cluster: 20, count: 1 },
      { cluster: null, count: UNIT - 1 },
      { cluster: null, count: UNIT },
    ]
    const size = 3 * UNIT * CLUSTER - 100
    const source = new CompressedSource(
      { source: bytesSource(volume), place: [0, volume.length] },
      { clusterBytes: CLUSTER, unitClusters: UNIT },
      runs,
      size,
    )
    const expected = new Uint8Array(size)
    expected.set(plain)
    expected.set(new TextEncoder().encode('abcdefghabcdefgh'), UNIT * CLUSTER)
    expect(Buffer.compare(source.read(0, size + 50), expected)).toBe(0)
    fc.assert(
      fc.property(fc.nat(size), fc.nat(3000), (offset, length) => {
        expect([...source.read(offset, length)]).toEqual([...expected.subarray(offset, offset + length)])
      }),
      { numRuns: 30 },
    )
  })

  it('does no harm whatever it holds', () => {
    fc.assert(
      fc.property(fc.uint8Array({ maxLength: 300 }), (bytes) => {
        const out = new Uint8Array(8192)
        unpack(bytes, out)
        expect(out).toHaveLength(8192)
      }),
    )
  })
})
