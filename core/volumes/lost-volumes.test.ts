import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { scanImage } from '../scanning/scan'
import { PatientSource } from '../sources/patient-source'
import { bytesSource, type ByteSource } from '../sources/source'
import { imageBytes } from '../testing/media-images'
import { findVolumes } from './volumes'

const volumesOf = (bytes: Uint8Array) => findVolumes(bytesSource(bytes)).volumes.map(({ shape }) => shape)
const placesOf = (bytes: Uint8Array) => volumesOf(bytes).map(({ fileSystem, offset }) => [fileSystem, offset])

function pathsIn(bytes: Uint8Array): (string | null)[] {
  const image = new PatientSource(bytesSource(bytes))
  const steps = scanImage(image, { pass: 'quick', formats: null, only: 'all', isWhole: false })
  let step = steps.next()
  while (!step.done) step = steps.next()
  return step.value.items.map(({ path }) => path).sort()
}

/** The first volume of a medium, alone. */
function volumeIn(image: Uint8Array): Uint8Array {
  const { offset, bytes } = volumesOf(image)[0]!
  return image.subarray(offset, offset + bytes)
}

/** A medium of two volumes whose table was zeroed. */
function withoutTable(): Uint8Array {
  const bytes = imageBytes('two-volumes').slice()
  bytes.fill(0, 0, 512)
  return bytes
}

describe('a volume that no table names', () => {
  it('is found with all of its names where the table was zeroed', () => {
    const before = imageBytes('two-volumes')
    const told = volumesOf(withoutTable())
    expect(told[0]).toMatchObject({ scheme: 'none', fileSystem: null, verdict: 'unknown' })
    expect(told[0]!.says).toContain('2 lost volumes')
    expect(told.slice(1)).toMatchObject(
      volumesOf(before).map(({ offset, fileSystem }) => ({ scheme: 'found', verdict: 'read', offset, fileSystem })),
    )
    expect(pathsIn(withoutTable())).toEqual(pathsIn(before))
  })

  it('is found behind a new volume that begins where an old one did', () => {
    const bytes = withoutTable()
    const view = new DataView(bytes.buffer)
    bytes.set([0, 0, 0, 0, 0x0c], 446)
    view.setUint32(454, 2048, true)
    view.setUint32(458, bytes.length / 512 - 2048, true)
    view.setUint16(510, 0xaa55, true)
    expect(placesOf(bytes)).toEqual(placesOf(imageBytes('two-volumes')))
    expect(pathsIn(bytes)).toEqual(pathsIn(imageBytes('two-volumes')))
  })

  it.each([
    ['NTFS, by the copy of its boot sector at its end', 'laptop', 512],
    ['ext4, by a copy of its superblock', 'ext3', 2048],
    ['FAT32, by the copy of its boot sector', 'camera-card', 512],
    ['exFAT, by the copy of its boot sector', 'stick', 512],
  ] as const)('is found where its own beginning is gone too: %s', (_, name, gone) => {
    const own = volumeIn(imageBytes(name))
    const bytes = new Uint8Array(own.length + 3 * 1024 * 1024)
    const at = 1_835_008
    bytes.set(own, at)
    bytes.fill(0, at, at + gone)
    const [, found] = volumesOf(bytes)
    expect(found).toMatchObject({ scheme: 'found', offset: at, verdict: 'damaged' })
  })

  it('is looked for without harm, whatever its boot sector says', () => {
    const own = withoutTable()
    const at = fc.constantFrom(1_048_576, 1_048_576 + 6 * 512, 40_894_464)
    fc.assert(
      fc.property(at, fc.array(fc.tuple(fc.nat(511), fc.nat(255)), { minLength: 1, maxLength: 6 }), (boot, changes) => {
        const bytes = own.subarray(0, 48 << 20).slice()
        for (const [offset, value] of changes) bytes[boot + offset] = value
        for (const { offset, bytes: length } of volumesOf(bytes))
          expect(offset >= 0 && length > 0 && offset + length <= bytes.length).toBe(true)
      }),
      { numRuns: 12 },
    )
  })

  it('is not believed where only its first sector is left', () => {
    const bytes = new Uint8Array(8 * 1024 * 1024)
    bytes.set(imageBytes('camera-card').subarray(0, 512), 1024 * 1024)
    expect(volumesOf(bytes)).toHaveLength(1)
  })

  it('is found by a deep scan where it begins at no boundary of a large medium', () => {
    const floppy = imageBytes('floppy')
    const at = 450 * 1024 * 1024 + 77 * 512
    const disk: ByteSource = {
      size: 600 * 1024 * 1024,
      read: (offset, length) => {
        const bytes = new Uint8Array(Math.max(0, Math.min(length, disk.size - offset)))
        const from = Math.max(offset, at)
        const part = floppy.subarray(from - at, Math.max(from, offset + length) - at)
        if (from < offset + length) bytes.set(part, from - offset)
        return bytes
      },
    }
    const told = (pass: 'quick' | 'both') => {
      const steps = scanImage(new PatientSource(disk), { pass, formats: null, only: 'all', isWhole: false })
      let step = steps.next()
      while (!step.done) step = steps.next()
      return step.value
    }
    expect(told('quick')).toMatchObject({ volumes: [{ shape: { verdict: 'empty' } }], items: [] })
    const { volumes, items } = told('both')
    expect(volumes[1]!.shape).toMatchObject({ index: 1, scheme: 'found', fileSystem: 'FAT12', offset: at })
    expect(items.map(({ path }) => path).sort()).toEqual(pathsIn(floppy))
  })
})
