import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { gunzipSync } from 'node:zlib'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { bytesSource } from '../../sources/source'
import { PICTURE_SHA256 } from '../../testing/locked-images'
import { contentBytes, scanned, sha256 } from '../../testing/media-images'
import { findVolumes } from '../volumes'
import { readSettings } from './settings-text'
import { readVolumeGroup } from './volume-group'

/** A member as its tools wrote it: root in extents 5 to 7, grown in 24 to 26 of two segments, spool in two pieces. */
const member = new Uint8Array(gunzipSync(readFileSync(join(import.meta.dirname, '../../testing/volume-group.img.gz'))))
const KB = 1024
const groupOf = (bytes: Uint8Array) => readVolumeGroup(bytesSource(bytes), [0, bytes.length])

describe('a member of a volume group', () => {
  it('tells of its logical volumes, neighbouring segments as one piece', () => {
    expect(groupOf(member)).toEqual({
      name: 'locks',
      volumes: [
        { name: 'root', pieces: [[(64 + 5 * 64) * KB, 192 * KB]] },
        {
          name: 'spool',
          pieces: [
            [(64 + 10 * 64) * KB, 128 * KB],
            [(64 + 20 * 64) * KB, 128 * KB],
          ],
        },
        { name: 'grown', pieces: [[(64 + 24 * 64) * KB, 192 * KB]] },
      ],
    })
  })

  it('gives the files of those that lie in one piece, and says which do not', () => {
    const { volumes, items } = scanned(member, { pass: 'quick' })
    expect(volumes.map(({ shape }) => [shape.verdict, shape.fileSystem])).toEqual([
      ['known', null],
      ['read', 'FAT12'],
      ['read', 'FAT12'],
    ])
    expect(volumes[0]!.shape.says).toContain('“locks” with 3 logical volumes. Not read')
    expect(volumes[0]!.shape.says).toContain(': spool.')
    expect(volumes[1]!.shape.says).toContain('Logical volume “root”. FAT12')
    const pictures = items.filter((item) => sha256(contentBytes(member, item)) === PICTURE_SHA256)
    expect(pictures.map(({ volume, record }) => [volume, record])).toEqual([
      [1, 'present'],
      [1, 'deleted'],
      [2, 'present'],
      [2, 'deleted'],
    ])
  })

  it('is known and not read where its text does not fit its checksum', () => {
    const bytes = member.slice()
    // In every version of the text that its area still holds.
    for (let at = bytes.indexOf(0x5f, KB); at >= 0 && at < 64 * KB; at = bytes.indexOf(0x5f, at + 1)) bytes[at] = 0x2e
    expect(groupOf(bytes)).toBeNull()
    expect(findVolumes(bytesSource(bytes)).volumes.map(({ shape }) => shape.verdict)).toEqual(['known'])
  })

  it('does no harm, whatever its label says', () => {
    const change = fc.tuple(fc.nat(5120), fc.nat(255))
    fc.assert(
      fc.property(fc.array(change, { minLength: 1, maxLength: 8 }), (changes) => {
        const bytes = member.slice()
        for (const [at, byte] of changes) bytes[at] = byte
        for (const { shape } of findVolumes(bytesSource(bytes)).volumes)
          expect(shape.offset >= 0 && shape.offset < bytes.length && shape.bytes > 0).toBe(true)
      }),
      { numRuns: 60 },
    )
  })
})

describe('the text of a volume group', () => {
  it('is sections, lists, strings and numbers, with notes', () => {
    expect(readSettings('a { # note\n b = 12\tc = ["x \\"y\\"", 3, []] d {} }')).toEqual({
      a: { b: 12, c: ['x "y"', 3, []], d: {} },
    })
  })

  it.each(['a = ', 'a { b = 1', 'a = [1, 2', 'a = [1 2]', 'a } b', '= 1', 'a = word', '"a" = 1', 'a = "x'])(
    '%j: is not of that form',
    (text) => expect(readSettings(text)).toBeNull(),
  )

  it('is read to its end or not at all', () => {
    const text = fc.string({ unit: fc.constantFrom(...'ab12 ={}[],"#\\\n'), maxLength: 60 })
    fc.assert(
      fc.property(text, (any) => {
        const told = readSettings(any)
        expect(told === null || typeof told === 'object').toBe(true)
      }),
    )
    expect(readSettings('a {'.repeat(5000))).toBeNull()
    expect(readSettings(`a = ${'['.repeat(5000)}`)).toBeNull()
  })
})
