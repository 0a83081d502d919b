import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Extent } from '../sources/source'
import { onImage, without } from './join'

const UNIT = 8
/** Every unit of some stretches, by its number. */
const units = (extents: readonly Extent[]) =>
  extents.flatMap(([offset, length]) => Array.from({ length: Math.ceil(length / UNIT) }, (_, at) => offset / UNIT + at))
const stretches = (most: number) =>
  fc
    .array(fc.tuple(fc.nat(most), fc.integer({ min: 1, max: 6 })), { maxLength: 8 })
    .map((all) => all.map(([unit, count]): Extent => [unit * UNIT, count * UNIT]))

/** Sorted and disjoint, as free extents are given. */
const areas = stretches(60).map((all) => {
  const held = new Set(units(all))
  const apart: [number, number][] = []
  for (let unit = 0; unit < 80; unit++) {
    if (!held.has(unit)) continue
    if (held.has(unit - 1)) apart.at(-1)![1] += UNIT
    else apart.push([unit * UNIT, UNIT])
  }
  return apart as Extent[]
})

describe('what is left of free stretches', () => {
  it('is every unit that no used extent touches', () => {
    fc.assert(
      fc.property(areas, stretches(70), fc.nat(UNIT - 1), (free, taken, short) => {
        // The rest of a file's last unit belongs to it.
        const cut = taken.map(([offset, length]): Extent => [offset, Math.max(1, length - short)])
        const gone = new Set(units(cut))
        expect(units(without(free, cut, UNIT))).toEqual(units(free).filter((unit) => !gone.has(unit)))
      }),
    )
  })
})

describe('stretches of a space that is cut out of an image', () => {
  it('map to the image offsets from which the bytes of the space come', () => {
    fc.assert(
      fc.property(areas, fc.nat(300), fc.nat(300), (space, from, length) => {
        const bytes = space.flatMap(([offset, long]) => Array.from({ length: long }, (_, at) => offset + at))
        const told = onImage(space, [[from, length]]).flatMap(([offset, long]) =>
          Array.from({ length: long }, (_, at) => offset + at),
        )
        expect(told).toEqual(bytes.slice(from, from + length))
      }),
    )
  })

  it('are merged where they are adjacent', () => {
    const space: Extent[] = [
      [0, 80],
      [200, 80],
    ]
    expect(onImage(space, [[40, 80]])).toEqual([
      [40, 40],
      [200, 40],
    ])
    expect(
      onImage(space, [
        [0, 16],
        [16, 16],
      ]),
    ).toEqual([[0, 32]])
  })
})
