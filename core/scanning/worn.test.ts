import { describe, expect, it } from 'vitest'
import { faultySource } from '../../stand-ins/media/faulty-source'
import { ALL, imageBytes, scanned, sha256 } from '../testing/media-images'
import { PatientSource } from '../sources/patient-source'
import { bytesSource, type Extent } from '../sources/source'
import { contentOf, markUnreadable, scanImage } from './scan'

const SECTOR = 512
const bytes = imageBytes('camera-card')
const sound = scanned(bytes)

function scanWorn(faults: { dead?: Extent[]; weak?: Extent[] }) {
  const image = new PatientSource(
    faultySource(bytesSource(bytes), {
      dead: (faults.dead ?? []).map(([at, length]): [number, number] => [at, length]),
      weak: (faults.weak ?? []).map(([at, length]): [number, number] => [at, length]),
      weakTries: 1,
      bytesPerSecond: null,
      giveUpMs: 0,
    }),
  )
  const steps = scanImage(image, ALL)
  for (let step = steps.next(); ; step = steps.next()) if (step.done) return { image, outcome: step.value }
}

/** sectors out of the middle and at the beginning of things that were found whole */
const places: Extent[] = sound.items
  .filter(({ content, bytes: size }) => content === 'intact' && size > 5000)
  .slice(0, 8)
  .map(({ extents: [first] }, at): Extent => {
    const from = Math.floor((first![0] + (at % 2) * 2048) / SECTOR) * SECTOR
    return [from, SECTOR * (1 + (at % 3))]
  })

describe('a medium with worn places', () => {
  it('gives what a sound one gives where they come when they are asked again', () => {
    const { image, outcome } = scanWorn({ weak: places })
    expect(image.unreadableBytes).toBe(0)
    const told = ({ items }: typeof sound) =>
      items.map(({ key, content, bytes: size, extents }) => ({ key, content, size, extents })).sort(byKey)
    expect(told(outcome)).toEqual(told(sound))
  })

  it('counts those that are dead, and calls nothing whole that has one in it', () => {
    const { image, outcome } = scanWorn({ dead: places })
    expect(image.unreadableBytes).toBe(places.reduce((sum, [, length]) => sum + length, 0))
    const whole = new Set(sound.items.map((item) => sha256(content(bytesSource(bytes), item))))
    let intact = 0
    for (const item of outcome.items.filter((one) => one.content === 'intact')) {
      const now = content(image, item)
      markUnreadable(image, item)
      if (item.content !== 'intact') continue
      intact++
      expect(whole).toContain(sha256(now))
    }
    expect(intact).toBeGreaterThan(10)
  })
})

function content(image: Parameters<typeof contentOf>[0], item: (typeof sound.items)[number]) {
  const source = contentOf(image, item)
  return source.read(0, source.size)
}
const byKey = (a: { key: string }, b: { key: string }) => (a.key < b.key ? -1 : 1)
