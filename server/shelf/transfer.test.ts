import { createHash } from 'node:crypto'
import { existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { afterAll, describe, expect, it } from 'vitest'
import { LinkFailure, linkFailure } from '../../core/bench/fault'
import type { ItemBytes } from '../../core/bench/link'
import { NO_MOUNT, smallDisk } from '../../core/testing/small-disk'
import { DiskFault } from '../links/disk-fault'
import { transfer, type Arriving } from './transfer'

const folder = mkdtempSync(join(tmpdir(), 'lantern-transfer-'))
afterAll(() => rmSync(folder, { recursive: true }))
const disk = smallDisk(1 << 20)
afterAll(() => disk?.remove())

let made = 0
const freshPath = () => join(folder, `${++made}`, 'item.bin')
const sha256 = (bytes: Uint8Array) => createHash('sha256').update(bytes).digest('hex')
const bytesOf = (count: number) => Uint8Array.from({ length: count }, (_, at) => (at * 7 + (at >> 8)) & 255)
const leftIn = (path: string) => (existsSync(join(path, '..')) ? readdirSync(join(path, '..')) : [])
const PART = 1000

/** A medium that gives its bytes in parts, each with bytes missing, and drops the connection where a test wants it. */
function medium(bytes: Uint8Array, breaksAt: readonly number[] = [], missingInPart = 0) {
  const breaks = [...breaksAt]
  return async (from: number): Promise<ItemBytes> => {
    const given = { missingBytes: 0 }
    return Object.assign(given, {
      async *[Symbol.asyncIterator]() {
        for (let at = from; at < bytes.length; at += PART) {
          if (breaks.length > 0 && at >= breaks[0]!) {
            breaks.shift()
            throw linkFailure('interrupted', 'The connection dropped.')
          }
          given.missingBytes += missingInPart
          yield bytes.subarray(at, Math.min(at + PART, bytes.length))
        }
      },
    })
  }
}
const arriving = (bytes: Uint8Array, more: Partial<Arriving> = {}): Arriving => ({
  open: medium(bytes),
  bytes: bytes.length,
  sha256: sha256(bytes),
  ...more,
})
const faultOf = (work: Promise<unknown>) =>
  work.then(
    () => null,
    (error: LinkFailure | DiskFault) => (error instanceof LinkFailure ? error.fault.fault : error),
  )

describe('a transfer', () => {
  it('puts every byte in place, however often the line breaks, and counts once what the medium did not give', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.integer({ min: 0, max: 12_000 }),
        fc.array(fc.integer({ min: 0, max: 12_000 }), { maxLength: 4 }),
        async (length, breaks) => {
          const bytes = bytesOf(length)
          const path = freshPath()
          const sorted = [...breaks].sort((a, b) => a - b)
          const arrived = await transfer(arriving(bytes, { open: medium(bytes, sorted, 3) }), path)
          expect(new Uint8Array(readFileSync(path))).toEqual(bytes)
          expect(arrived).toEqual({ bytes: length, sha256: sha256(bytes), missing: Math.ceil(length / PART) * 3 })
          expect(leftIn(path)).toEqual(['item.bin'])
        },
      ),
      { numRuns: 40 },
    )
  })

  it.each([
    ['too few bytes, without a checksum', { bytes: 5000, sha256: null }],
    ['too many bytes, without a checksum', { bytes: 3000, sha256: null }],
    ['other bytes', { sha256: sha256(bytesOf(3)) }],
  ])('of %s leaves nothing behind', async (_, more) => {
    const path = freshPath()
    expect(await faultOf(transfer(arriving(bytesOf(4000), more), path))).toBe('damaged')
    expect(leftIn(path)).toEqual([])
  })

  it('gives up where the line breaks again and again', async () => {
    const path = freshPath()
    const open = medium(bytesOf(4000), Array<number>(9).fill(2000))
    expect(await faultOf(transfer(arriving(bytesOf(4000), { open }), path))).toBe('interrupted')
    expect(leftIn(path)).toEqual([])
  })

  it('resumes what an earlier server had fetched, and starts over where that was of something else', async () => {
    const bytes = bytesOf(9000)
    for (const before of [bytes.subarray(0, 4321), bytesOf(20_000)]) {
      const path = freshPath()
      await transfer(arriving(bytesOf(1)), path)
      writeFileSync(`${path}.part`, before)
      const asked: number[] = []
      const open = (from: number) => (asked.push(from), medium(bytes)(from))
      await transfer(arriving(bytes, { open }), path, { keepsPart: true })
      expect(new Uint8Array(readFileSync(path))).toEqual(bytes)
      expect(asked).toEqual([before.length < bytes.length ? before.length : 0])
    }
  })

  it('keeps what was fetched where the line breaks for good, and not what is damaged', async () => {
    const path = freshPath()
    const open = medium(bytesOf(4000), Array<number>(9).fill(2000))
    await faultOf(transfer(arriving(bytesOf(4000), { open }), path, { keepsPart: true }))
    expect(leftIn(path)).toEqual(['item.bin.part'])
    await faultOf(transfer(arriving(bytesOf(4000), { sha256: sha256(bytesOf(1)) }), path, { keepsPart: true }))
    expect(leftIn(path)).toEqual([])
  })

  it.skipIf(!disk)(`that a full disk stops ends with its reason and gives the room back (${NO_MOUNT})`, async () => {
    const path = join(disk!.folder, 'item.bin')
    const bytes = bytesOf(3 << 20)
    const fault = await faultOf(transfer(arriving(bytes), path))
    expect(fault).toBeInstanceOf(DiskFault)
    expect((fault as DiskFault).isFull).toBe(true)
    expect(readdirSync(disk!.folder)).toEqual([])
    // Room was given back: what fits now arrives whole.
    await transfer(arriving(bytesOf(700_000)), path)
    expect(readFileSync(path).length).toBe(700_000)
  })
})
