import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import fc from 'fast-check'
import { afterAll, describe, expect, it } from 'vitest'
import { openImage, splitParts } from './split-parts'

const folder = mkdtempSync(join(tmpdir(), 'lantern-parts-'))
afterAll(() => rmSync(folder, { recursive: true }))
const write = (name: string, bytes: Uint8Array) => {
  writeFileSync(join(folder, name), bytes)
  return join(folder, name)
}

describe('an image that was split', () => {
  it('is read as one, whatever is read across its parts', () => {
    const all = Uint8Array.from({ length: 5000 }, (_, at) => (at * 7) & 255)
    const cuts = [0, 1800, 1801, 4000, 5000]
    const [first] = cuts.slice(0, -1).map((from, at) => write(`card.00${at + 1}`, all.subarray(from, cuts[at + 1])))
    const image = openImage(first!)
    expect(image.size).toBe(all.length)
    fc.assert(
      fc.property(fc.nat(5100), fc.nat(5100), (offset, length) => {
        expect(Buffer.compare(image.read(offset, length), all.subarray(offset, offset + length))).toBe(0)
      }),
    )
    image.close()
    expect(splitParts(first!)).toMatchObject({ paths: { length: 4 }, says: null })
    expect(splitParts(join(folder, 'card.002'))?.says).toContain('scan its first part')
  })

  it('is counted by letters too', () => {
    for (const [at, name] of ['disk.aa', 'disk.ab', 'disk.ac'].entries()) write(name, Uint8Array.of(at, at))
    const image = openImage(join(folder, 'disk.aa'))
    expect([...image.read(0, 9)]).toEqual([0, 0, 1, 1, 2, 2])
    image.close()
  })

  it('says where its second part is missing; other names are those of no part', () => {
    expect(splitParts(write('lone.001', Uint8Array.of(1)))?.says).toContain('part 2 was not found')
    for (const name of ['card.img', 'card.dd', 'notes.txt', 'card', 'disk.raw', 'card.v2'])
      expect(splitParts(join(folder, name)), name).toBeNull()
  })
})
