import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  contentBytes,
  imageBytes,
  IMAGES,
  scanned,
  sha256,
  STRUCTURES,
  truthOf,
  type ImageName,
} from '../../testing/media-images'
import { FILE_SYSTEMS } from '../recognise'
import { findVolumes } from '../volumes'
import { bytesSource } from '../../sources/source'
import { readRecords } from '../../scanning/quick'
import { UnitMap } from './unit-map'

const at = (name: ImageName) => findVolumes(bytesSource(imageBytes(name))).volumes.map(({ shape }) => shape)

describe('volumes', () => {
  it('are reported with scheme, file system, offset and label', () => {
    expect(at('floppy')).toMatchObject([
      { scheme: 'none', fileSystem: 'FAT12', offset: 0, bytes: 1_474_560, label: 'OLD NOTES' },
    ])
    expect(at('two-volumes')).toMatchObject([
      { scheme: 'mbr', fileSystem: 'FAT32', offset: 2048 * 512, label: 'FIELD CARD' },
      { scheme: 'mbr', fileSystem: 'FAT16', offset: 79_872 * 512, label: 'SPARE' },
    ])
    expect(at('laptop')).toMatchObject([{ scheme: 'gpt', fileSystem: 'NTFS', offset: 2048 * 512, label: 'Quay' }])
    expect(at('stick')).toMatchObject([{ scheme: 'none', fileSystem: 'exFAT', label: 'NEW STICK' }])
    expect(at('server')).toMatchObject([{ fileSystem: 'ext4', label: 'records' }])
    expect(at('ext3')).toMatchObject([{ fileSystem: 'ext3' }])
    expect(at('ext2')).toMatchObject([{ fileSystem: 'ext2' }])
  })

  it('are found by the backup of a GUID partition table, where its first header is damaged', () => {
    const bytes = imageBytes('laptop').slice()
    bytes.fill(0x5a, 512, 1024)
    const { volumes, warnings } = findVolumes(bytesSource(bytes))
    expect(volumes).toMatchObject([{ shape: { scheme: 'gpt', fileSystem: 'NTFS' } }])
    expect(warnings).toEqual([expect.objectContaining({ where: 'GUID partition table' })])
  })

  it('are read by a copy of their boot sector, with a warning', () => {
    for (const [name, from, length] of [
      ['camera-card', 2048 * 512, 512],
      ['stick', 0, 512],
      ['laptop', 2048 * 512, 512],
      ['server', 1024, 1024],
    ] as const) {
      const bytes = imageBytes(name).slice()
      bytes.fill(0, from, from + length)
      const whole = scanned(imageBytes(name), { pass: 'quick' })
      const told = scanned(bytes, { pass: 'quick' })
      expect(
        told.items.map(({ path, bytes: size }) => [path, size]),
        name,
      ).toEqual(whole.items.map(({ path, bytes: size }) => [path, size]))
      expect(
        told.warnings.some(({ what }) => /copy/.test(what)),
        name,
      ).toBe(true)
    }
  })
})

describe('every file system', () => {
  it.each(FILE_SYSTEMS.flatMap(({ kinds }) => kinds))('has an image from which its files come back: %s', (kind) => {
    const names = IMAGES.filter((name) => at(name).some(({ fileSystem }) => fileSystem === kind))
    expect(names.length).toBeGreaterThan(0)
    for (const name of names) {
      const volumes = at(name).flatMap(({ index, fileSystem }) => (fileSystem === kind ? [index] : []))
      const items = scanned(imageBytes(name), { pass: 'quick' }).items.filter((item) => volumes.includes(item.volume!))
      const sums = new Set(truthOf(name).files.map((file) => file.sha256))
      const back = items.filter((item) => sums.has(sha256(contentBytes(imageBytes(name), item))))
      expect(back.length, name).toBeGreaterThan(0)
    }
  })

  it('is named by the volumes that it recognises, and by no other', () => {
    const kinds = FILE_SYSTEMS.flatMap((one) => one.kinds)
    expect(new Set(kinds).size).toBe(kinds.length)
    for (const name of IMAGES) for (const { fileSystem } of at(name)) expect([...kinds, null]).toContain(fileSystem)
  })
})

describe('a chain that leads round in a circle', () => {
  it('ends, and is warned of', () => {
    const bytes = imageBytes('two-volumes').slice()
    const volume = 2048 * 512
    const reserved = bytes[volume + 14]! | (bytes[volume + 15]! << 8)
    // The root folder of FAT32 begins in cluster 2: make its chain a cycle.
    new DataView(bytes.buffer).setUint32(volume + reserved * 512 + 2 * 4, 2, true)
    const { warnings } = scanned(bytes, { pass: 'quick' })
    expect(warnings).toContainEqual(expect.objectContaining({ where: 'volume 0, root folder' }))
  })
})

describe('a superblock with more groups than fit', () => {
  it.each([
    ['blocks in a group', 32, 1],
    ['blocks in a group', 32, 70_000],
    ['inodes in a group', 40, 65_000],
  ])('is none: %s', (_, field, value) => {
    const bytes = imageBytes('ext2').slice()
    // Its copies, where they are, still make a volume of it; without them it is nothing.
    new DataView(bytes.buffer).setUint32(1024 + field, value, true)
    bytes.fill(0, 8193 * 1024, 8194 * 1024)
    expect(findVolumes(bytesSource(bytes)).volumes).toMatchObject([{ shape: { fileSystem: null } }])
  })
})

describe('the gaps of a map', () => {
  it('are the units that are not in it, in order', () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.nat(199), { maxLength: 120 }), fc.integer({ min: 1, max: 200 }), (units, count) => {
        const map = new UnitMap(count)
        for (const unit of units) map.add(unit)
        const free = [...map.gaps()].flatMap(([first, length]) => Array.from({ length }, (_, index) => first + index))
        expect(free).toEqual(Array.from({ length: count }, (_, unit) => unit).filter((unit) => !units.includes(unit)))
      }),
    )
  })
})

describe.each(STRUCTURES)('damage on %s from byte %i on', (name, from, length) => {
  it('does no harm: what is still there is reported, within the image', () => {
    const image = imageBytes(name)
    fc.assert(
      fc.property(
        fc.array(fc.tuple(fc.nat(length - 1), fc.constantFrom(0, 1, 0x7f, 0x80, 0xff, -1)), {
          minLength: 1,
          maxLength: 60,
        }),
        fc.nat(20),
        (changes, cut) => {
          const before = changes.map(([offset]) => [from + offset, image[from + offset]!] as const)
          for (const [offset, value] of changes)
            image[from + offset] = value < 0 ? image[from + offset]! ^ (1 << (offset & 7)) : value
          try {
            const part = cut === 0 ? image.subarray(0, Math.floor(image.length / 3)) : image
            for (const { fileSystem } of findVolumes(bytesSource(part)).volumes) {
              if (!fileSystem) continue
              for (const { record } of readRecords(fileSystem).claims)
                for (const [offset, bytes] of record.extents) expect(offset >= -1 && bytes >= 0).toBe(true)
            }
          } finally {
            for (const [offset, value] of [...before].reverse()) image[offset] = value
          }
        },
      ),
      { numRuns: 120 },
    )
  })
})
