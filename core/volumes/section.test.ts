import { describe, expect, it } from 'vitest'
import { imageBytes } from '../testing/media-images'
import { findVolumes } from './volumes'
import { inUseOf } from './section'
import { bytesSource } from '../sources/source'

describe('the section of a medium', () => {
  it('gives the allocated fraction of each part, which adds up to what the file system says', () => {
    for (const name of ['camera-card', 'stick', 'laptop', 'server'] as const) {
      const image = bytesSource(imageBytes(name))
      const { volumes } = findVolumes(image)
      const parts = inUseOf(image.size, volumes, 240)
      expect(parts).toHaveLength(240)
      const { fileSystem } = volumes[0]!
      const { unitBytes, unitsFrom, allocated } = fileSystem!
      let free = 0
      for (const [, count] of allocated.gaps()) free += count * unitBytes
      const expected = unitsFrom - volumes[0]!.shape.offset + allocated.count * unitBytes - free
      const told = parts.reduce<number>((sum, part) => sum + (part ?? 0) * (image.size / 240), 0)
      // The first and last part are partly outside the volume.
      expect(Math.abs(told - expected)).toBeLessThan((2 * image.size) / 240)
    }
  })

  it('gives nothing for areas outside any file system', () => {
    const empty = bytesSource(new Uint8Array(100_000))
    expect(inUseOf(empty.size, findVolumes(empty).volumes, 8)).toEqual(Array(8).fill(null))
    // Nothing owns the sectors before the first partition.
    const card = bytesSource(imageBytes('camera-card'))
    expect(inUseOf(card.size, findVolumes(card).volumes, 240)[0]).toBe(null)
  })

  it('is complete for a medium with fewer bytes than parts too', () => {
    expect(inUseOf(3, [], 5)).toEqual([null, null, null, null, null])
  })
})
