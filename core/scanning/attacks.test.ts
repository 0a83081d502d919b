import { describe, expect, it } from 'vitest'
import { cut, layoutOf, withoutCluster, withoutStructure, wronglyIntact, type Attack } from '../testing/image-attacks'
import { contentBytes, imageBytes, IMAGES, scanned, truthOf } from '../testing/media-images'

/** A few of each kind here; thousands in `npm run attack`. */
const FEW = 10
const SEED = 2026

const wrong = (name: (typeof IMAGES)[number], attacks: Iterable<Attack>) =>
  [...attacks].flatMap(({ says, bytes }) =>
    wronglyIntact(name, bytes, { pass: 'quick' }).map(
      ({ path, extents }) => `${says}: ${path} at ${String(extents[0])}`,
    ),
  )

for (const name of IMAGES)
  describe(`nothing on ${name} is called intact that is not`, () => {
    it('where the image was cut', () => expect(wrong(name, cut(name, FEW, SEED))).toEqual([]))
    it('where a sector of the file system’s own is zeros', () => {
      expect(layoutOf(name).structures.length).toBeGreaterThan(3)
      expect(wrong(name, withoutStructure(name, FEW, SEED))).toEqual([])
    })
    it('where a cluster of a file that proves itself is zeros', () => {
      expect(layoutOf(name).provable.length).toBeGreaterThan(3)
      expect(wrong(name, withoutCluster(name, FEW, SEED))).toEqual([])
    })
  })

describe('a cut image', () => {
  it('reports which part of a file lies beyond its end, and reads it as zeros', () => {
    const whole = imageBytes('camera-card')
    const files = scanned(whole, { pass: 'quick' }).items.filter(
      ({ record, bytes, extents }) => record === 'present' && bytes > 4096 && extents.length === 1,
    )
    const file = files[Math.floor(files.length / 2)]!
    const [offset, length] = file.extents[0]!
    const bytes = whole.subarray(0, offset + Math.floor(length / 2))
    const items = scanned(bytes, { pass: 'quick' }).items
    const own = items.find(({ path }) => path === file.path)!
    expect(own.content).toBe('partial')
    const content = contentBytes(bytes, own)
    expect(content.subarray(0, 1000)).toEqual(whole.subarray(offset, offset + 1000))
    for (const { path, content, extents } of items)
      if (extents[0] && extents[0][0] >= bytes.length) expect(content, path!).not.toBe('intact')
  })
})

describe('a damaged copy of the allocation table', () => {
  const name = 'camera-card'
  const file = truthOf(name).files.find(({ state, bytes }) => state === 'present' && bytes > 20_000)!
  const bytes = imageBytes(name)
  const volume = scanned(bytes, { pass: 'quick' }).volumes[0]!
  const at = volume.shape.offset
  const view = new DataView(bytes.buffer, bytes.byteOffset)
  const tableAt = at + view.getUint16(at + 14, true) * view.getUint16(at + 11, true)
  const tableBytes = (view.getUint16(at + 22, true) || view.getUint32(at + 36, true)) * view.getUint16(at + 11, true)

  it('is not followed where the other copy is good', () => {
    for (const copy of [0, 1]) {
      const damaged = bytes.slice()
      damaged.fill(0, tableAt + copy * tableBytes + 8, tableAt + (copy + 1) * tableBytes)
      expect(wronglyIntact(name, damaged, { pass: 'quick' })).toEqual([])
      const own = scanned(damaged, { pass: 'quick' }).items.find(({ path }) => path === file.path)!
      expect(own.content).toBe('intact')
    }
  })

  it('that leads elsewhere at the right length leaves nothing intact that no structure proves', () => {
    const damaged = bytes.slice()
    const entries = new DataView(damaged.buffer)
    const wide = volume.fileSystem!.kind === 'FAT32'
    // Every chain has one cluster too many.
    const width = wide ? 4 : 2
    for (let entry = 2; entry * width < tableBytes; entry++) {
      const place = tableAt + entry * width
      const value = wide ? entries.getUint32(place, true) : entries.getUint16(place, true)
      const isLink = value > 2 && value < (wide ? 0xffffff0 : 0xfff0)
      if (isLink && wide) entries.setUint32(place, value + 1, true)
      if (isLink && !wide) entries.setUint16(place, value + 1, true)
    }
    expect(wronglyIntact(name, damaged, { pass: 'quick' })).toEqual([])
  })
})

describe('a deleted file that begins with zeros', () => {
  it('is kept where more of it remains, and reported as overwritten where nothing does', () => {
    const bytes = imageBytes('odd-ntfs').slice()
    const find = (image: Uint8Array) =>
      scanned(image, { pass: 'quick' }).items.find(
        ({ record, bytes: size, source, extents }) =>
          record === 'deleted' && size > 8192 && source === null && extents.length === 1,
      )!
    const before = find(bytes)
    const [offset, length] = before.extents[0]!
    bytes.fill(0, offset, offset + 4096)
    const again = (image: Uint8Array) => scanned(image, { pass: 'quick' }).items.find(({ key }) => key === before.key)!
    expect(again(bytes).content).not.toBe('overwritten')
    bytes.fill(0, offset, offset + length)
    expect(again(bytes).content).toBe('overwritten')
  })
})
