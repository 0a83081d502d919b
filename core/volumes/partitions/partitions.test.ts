import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { crc32 } from '../../sources/checksums'
import { bytesSource } from '../../sources/source'
import { readGpt } from './gpt'
import { GPT_ENTRY, GPT_HEADER } from './gpt.layout'
import { readMbr } from './mbr'
import { MBR, MBR_ENTRY } from './mbr.layout'
import { findVolumes } from '../volumes'

const SECTOR = 512
const SECTORS = 4096

const empty = () => new Uint8Array(SECTORS * SECTOR)

type Told = readonly [type: number, first: number, sectors: number]

/** Writes a table of partitions into a sector. */
function table(image: Uint8Array, sector: number, entries: readonly Told[]): Uint8Array {
  const view = new DataView(image.buffer, sector * SECTOR)
  for (const [index, [type, first, sectors]] of entries.entries()) {
    const at = MBR.entries + index * MBR.entryBytes
    view.setUint8(at + MBR_ENTRY.type, type)
    view.setUint32(at + MBR_ENTRY.firstSector, first, true)
    view.setUint32(at + MBR_ENTRY.sectors, sectors, true)
  }
  view.setUint16(MBR.signature, MBR.signatureValue, true)
  return image
}
const inSectors = (image: Uint8Array) =>
  readMbr(bytesSource(image), SECTOR)!.partitions.map(([offset, length]) => [offset / SECTOR, length / SECTOR])

describe('a master boot record', () => {
  it('gives its primary partitions, and the logical ones in a chain of tables', () => {
    const image = table(empty(), 0, [
      [0x0c, 64, 100],
      [0x05, 1000, 2000],
      [0, 0, 0],
      [0x07, 3500, 96],
    ])
    // Each names its own partition from itself on, and the next table from the first on.
    table(image, 1000, [
      [0x83, 8, 200],
      [0x05, 500, 400],
    ])
    table(image, 1500, [
      [0x07, 16, 300],
      [0x05, 1200, 300],
    ])
    table(image, 2200, [[0x83, 4, 50]])
    expect(inSectors(image)).toEqual([
      [64, 100],
      [1008, 200],
      [1516, 300],
      [2204, 50],
      [3500, 96],
    ])
  })

  it('warns of a chain that leads back to itself or to nowhere, and keeps what it has', () => {
    const circle = table(empty(), 0, [[0x0f, 1000, 2000]])
    table(circle, 1000, [
      [0x83, 8, 200],
      [0x05, 500, 100],
    ])
    table(circle, 1500, [
      [0x83, 8, 100],
      [0x05, 500, 100],
    ])
    const told = readMbr(bytesSource(circle), SECTOR)!
    expect(told.partitions).toHaveLength(2)
    expect(told.warnings).toEqual([{ where: 'extended partition table in sector 1500', what: 'refers to itself' }])
    const cut = table(empty(), 0, [[0x05, 1000, 2000]])
    expect(readMbr(bytesSource(cut), SECTOR)!.warnings).toMatchObject([{ what: 'is not there' }])
  })

  it('cuts partitions that reach beyond the end and omits those that begin there, with a warning', () => {
    const image = table(empty(), 0, [
      [0x0c, 4000, 500],
      [0x0c, 9000, 10],
    ])
    expect(inSectors(image)).toEqual([[4000, 96]])
    expect(readMbr(bytesSource(image), SECTOR)!.warnings.map(({ where }) => where)).toEqual([
      'partition table, entry 1',
      'partition table, entry 2',
    ])
  })

  it('is none without its mark, and none where a file system has its own code', () => {
    expect(readMbr(bytesSource(empty()), SECTOR)).toBeNull()
    const code = table(empty(), 0, [[0x0c, 64, 100]])
    code[MBR.entries] = 0x33
    expect(readMbr(bytesSource(code), SECTOR)).toBeNull()
  })

  it('does no harm whatever it says', () => {
    const number = fc.integer({ min: 0, max: 2 ** 32 - 1 })
    const entry = fc.tuple(fc.constantFrom(0, 5, 7, 0x0c, 0x0f, 0x83, 0xee), fc.oneof(fc.nat(SECTORS), number), number)
    const entries = fc.array(entry, { maxLength: 4 })
    fc.assert(
      fc.property(entries, entries, fc.nat(SECTORS - 1), (first, second, at) => {
        const image = table(table(empty(), at, second), 0, first)
        const told = readMbr(bytesSource(image), SECTOR)
        for (const [offset, length] of told?.partitions ?? [])
          expect(offset > 0 && length > 0 && offset + length <= image.length).toBe(true)
      }),
    )
  })
})

/** A GUID partition table with its copy at the end; places in sectors, the last one included. */
function guided(places: readonly (readonly [first: number, last: number, name: string])[]): Uint8Array {
  const image = empty()
  const entryBytes = GPT_ENTRY.leastBytes
  const entries = new Uint8Array(128 * entryBytes)
  for (const [index, [first, last, name]] of places.entries()) {
    const view = new DataView(entries.buffer, index * entryBytes)
    view.setUint32(GPT_ENTRY.type, 0x0fc63daf, true)
    view.setBigUint64(GPT_ENTRY.firstSector, BigInt(first), true)
    view.setBigUint64(GPT_ENTRY.lastSector, BigInt(last), true)
    for (const [at, letter] of [...name].entries()) view.setUint16(GPT_ENTRY.name + at * 2, letter.charCodeAt(0), true)
  }
  const copies = [
    { own: 1, other: SECTORS - 1, at: 2 },
    { own: SECTORS - 1, other: 1, at: SECTORS - 33 },
  ]
  for (const { own, other, at } of copies) {
    image.set(entries, at * SECTOR)
    const view = new DataView(image.buffer, own * SECTOR)
    for (const [index, letter] of [...GPT_HEADER.signature].entries()) view.setUint8(index, letter.charCodeAt(0))
    view.setUint32(GPT_HEADER.headerBytes, 92, true)
    view.setBigUint64(GPT_HEADER.ownSector, BigInt(own), true)
    view.setBigUint64(GPT_HEADER.otherSector, BigInt(other), true)
    view.setBigUint64(GPT_HEADER.entriesSector, BigInt(at), true)
    view.setUint32(GPT_HEADER.entryCount, 128, true)
    view.setUint32(GPT_HEADER.entryBytes, entryBytes, true)
    view.setUint32(GPT_HEADER.entriesChecksum, crc32(entries), true)
    view.setUint32(GPT_HEADER.headerChecksum, crc32(image.subarray(own * SECTOR, own * SECTOR + 92)), true)
  }
  return image
}

describe('a GUID partition table', () => {
  const places = [
    [64, 1063, 'towpath'],
    [2000, 2999, 'lock'],
  ] as const
  const expected = [
    { extent: [64 * SECTOR, 1000 * SECTOR], name: 'towpath' },
    { extent: [2000 * SECTOR, 1000 * SECTOR], name: 'lock' },
  ]

  it('gives its partitions with their names', () => {
    expect(readGpt(bytesSource(guided(places)), SECTOR)).toEqual({ partitions: expected, warnings: [] })
  })

  it.each([
    ['its header', SECTOR + GPT_HEADER.entryCount],
    ['one of its entries', 2 * SECTOR + GPT_ENTRY.firstSector],
  ])('is read from its copy where %s is damaged, with a warning', (_, at) => {
    const image = guided(places)
    image[at]! ^= 0x40
    const told = readGpt(bytesSource(image), SECTOR)!
    expect(told.partitions).toEqual(expected)
    expect(told.warnings).toMatchObject([{ where: 'GUID partition table' }])
  })

  it('is none where both of its headers are damaged', () => {
    const image = guided(places)
    image[SECTOR + 30]! ^= 1
    image[(SECTORS - 1) * SECTOR + 30]! ^= 1
    expect(readGpt(bytesSource(image), SECTOR)).toBeNull()
  })

  it('leaves out what cannot be, and says which', () => {
    const told = readGpt(bytesSource(guided([...places, [3000, 2000, 'backward'], [9000, 9999, 'beyond']])), SECTOR)!
    expect(told.partitions).toEqual(expected)
    expect(told.warnings.map(({ where }) => where)).toEqual([
      'GUID partition table, entry 3',
      'GUID partition table, entry 4',
    ])
  })

  it('takes precedence over the protective MBR in the first sector', () => {
    const image = table(guided(places), 0, [[0xee, 1, SECTORS - 1]])
    const { volumes } = findVolumes(bytesSource(image))
    expect(volumes.map(({ shape }) => [shape.scheme, shape.offset / SECTOR])).toEqual([
      ['gpt', 64],
      ['gpt', 2000],
    ])
  })
})

describe('an image without a table', () => {
  it('is one volume, of which no file system is known', () => {
    const { volumes } = findVolumes(bytesSource(empty()))
    expect(volumes.map(({ shape }) => shape)).toEqual([
      {
        index: 0,
        scheme: 'none',
        fileSystem: null,
        offset: 0,
        bytes: SECTORS * SECTOR,
        label: null,
        lock: null,
        verdict: 'empty',
        says: expect.stringContaining('Only zeros'),
      },
    ])
  })
})
