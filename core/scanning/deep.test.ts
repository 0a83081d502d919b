import { describe, expect, it } from 'vitest'
import { ALL, fileOf, scanned } from '../testing/media-images'
import { bytesSource, type Extent } from '../sources/source'
import { areasOf } from './areas'
import { contentAt } from './deep'

const SECTOR = 512
const utf8 = (text: string) => new TextEncoder().encode(text)
/** A medium without a file system that holds each of these at its sector. */
function medium(things: readonly (readonly [sector: number, bytes: Uint8Array])[], sectors = 1200): Uint8Array {
  const image = new Uint8Array(sectors * SECTOR)
  for (const [sector, bytes] of things) image.set(bytes, sector * SECTOR)
  return image
}
const found = (image: Uint8Array, more = {}) =>
  scanned(image, { ...ALL, pass: 'deep', ...more }).items.map(({ extension, content, extents }) => ({
    extension,
    content,
    at: extents[0]![0] / SECTOR,
  }))

const jpeg = fileOf('two-volumes', 'DCIM/100/weir.jpg')
const wav = fileOf('two-volumes', 'DCIM/100/bell.wav')
const cards = fileOf('two-volumes', 'DCIM/100/miller.vcf')

describe('the deep scan', () => {
  it.each([
    ['plain letters', 'Sluice at the upper lock, to be painted before the frost comes. '],
    ['a letter of two bytes among the first', 'Größe der Schleuse, vor dem Frost zu streichen. '],
    ['a first letter of two bytes', 'Über dem Wehr, bei Nebel, im November. Noch einmal lesen. '],
    ['letters of three bytes', '水門の鍵は事務所にあります。午後に取りに来てください。sluice gate key is here. '],
  ])('finds text that begins with %s', (_, words) => {
    const text = utf8(words.repeat(12))
    expect(found(medium([[40, text]]))).toEqual([{ extension: 'txt', content: 'unverified', at: 40 }])
  })

  it('ignores whatever begins between sectors, zeros and noise', () => {
    const image = medium([])
    image.set(jpeg, 40 * SECTOR + 7)
    expect(found(image)).toEqual([])
    const noise = Uint8Array.from({ length: 400 * SECTOR }, (_, at) => (Math.imul(at + 3, 2654435761) >>> 15) & 255)
    expect(found(noise)).toEqual([])
  })

  it('finds nothing inside of a whole file, and what begins inside of one that merely fits', () => {
    // Recorded sound that was written over by a picture: its lengths fit all the same.
    const image = medium([
      [10, wav],
      [50, jpeg],
    ])
    expect(found(image)).toEqual([
      { extension: 'wav', content: 'unverified', at: 10 },
      { extension: 'jpg', content: 'intact', at: 50 },
    ])
    expect(found(medium([[10, jpeg]]))).toHaveLength(1)
  })

  it('looks only for what it is asked for', () => {
    const image = medium([
      [10, wav],
      [200, jpeg],
      [400, cards],
    ])
    expect(found(image, { formats: new Set(['jpeg', 'vcard']) }).map(({ extension }) => extension)).toEqual([
      'jpg',
      'vcf',
    ])
  })

  it('does not put sound together out of the places of other files', () => {
    // Cut off by the end of the medium: its next fragment is unknown, and those sectors belong to another file.
    const image = medium(
      [
        [2, cards],
        [10, jpeg],
        [1160, wav.subarray(0, 40 * SECTOR)],
      ],
      1200,
    )
    const names = found(image).map(({ extension }) => extension)
    expect(names).toContain('vcf')
    expect(names).toContain('jpg')
  })

  it('reports again what begins at given places', () => {
    const image = medium([
      [10, wav],
      [200, jpeg],
    ])
    const told = [...contentAt(bytesSource(image), [], { isWhole: true, formats: null }, [200 * SECTOR, 300 * SECTOR])]
    expect(told.map(({ extension, content }) => [extension, content])).toEqual([['jpg', 'intact']])
  })
})

describe('where to look', () => {
  it('is everywhere without a file system, also behind the last volume', () => {
    const image = bytesSource(new Uint8Array(100 * SECTOR))
    const shape = {
      index: 0,
      scheme: 'mbr',
      fileSystem: null,
      offset: 10 * SECTOR,
      bytes: 50 * SECTOR,
      label: null,
      verdict: 'unknown',
      says: '',
      lock: null,
    } as const
    const areas = areasOf(image, [{ shape, fileSystem: null }], false)
    const covered = (all: readonly Extent[]) => all.reduce((sum, [, length]) => sum + length, 0)
    expect(covered(areas)).toBe(100 * SECTOR)
    expect(areasOf(image, [], true)).toEqual([[0, 100 * SECTOR]])
  })
})
