import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { UnitMap } from './unit-map'

const COUNT = 83
const run = fc.tuple(fc.integer({ min: -20, max: 100 }), fc.integer({ min: 0, max: 120 }))
const runs = fc.array(run, { maxLength: 6 })
const units = ([first, count]: readonly [number, number]) =>
  Array.from({ length: count }, (_, index) => first + index).filter((unit) => unit >= 0 && unit < COUNT)
const inMap = (map: UnitMap) => Array.from({ length: COUNT }, (_, unit) => unit).filter((unit) => map.has(unit))

function mapOf(all: readonly (readonly [number, number])[]): UnitMap {
  const map = new UnitMap(COUNT)
  for (const unit of all.flatMap(units)) map.add(unit)
  return map
}

describe('runs of units', () => {
  it('are added as their units are, one by one, and what was there already to the other map', () => {
    fc.assert(
      fc.property(runs, (all) => {
        const [once, twice, plainOnce, plainTwice] = [0, 0, 0, 0].map(() => new UnitMap(COUNT)) as UnitMap[]
        for (const one of all) {
          once!.addRun(one[0], one[1], twice!)
          for (const unit of units(one)) (plainOnce!.has(unit) ? plainTwice! : plainOnce!).add(unit)
        }
        expect(inMap(once!)).toEqual(inMap(plainOnce!))
        expect(inMap(twice!)).toEqual(inMap(plainTwice!))
      }),
    )
  })

  it('are counted and found as their units are', () => {
    fc.assert(
      fc.property(runs, runs, run, (one, other, asked) => {
        const [map, more] = [mapOf(one), mapOf(other)]
        const there = units(asked).filter((unit) => map.has(unit) || more.has(unit))
        expect(map.countOfRun(asked[0], asked[1], more)).toBe(there.length)
        expect(map.hasAnyOf(...asked)).toBe(units(asked).some((unit) => map.has(unit)))
      }),
    )
  })

  it('that are not in the map are its gaps', () => {
    fc.assert(
      fc.property(runs, (all) => {
        const map = mapOf(all)
        const free = [...map.gaps()].flatMap(units)
        expect([...free, ...inMap(map)].sort((a, b) => a - b)).toEqual(units([0, COUNT]))
      }),
    )
  })

  it('beyond every number are no more than the map', () => {
    const map = new UnitMap(COUNT)
    map.addRun(-1, 2 ** 50, new UnitMap(COUNT))
    expect(map.countOfRun(0, 2 ** 52, map)).toBe(COUNT)
    expect(map.bits.at(-1)).toBe(0b111)
  })

  it('are distinguished on a volume of more than four thousand million units', () => {
    const [map, none] = [new UnitMap(2 ** 32 + 64), new UnitMap(2 ** 32 + 64)]
    map.add(2 ** 32 + 5)
    map.addRun(2 ** 31 - 2, 4, none)
    expect([5, 2 ** 31 - 1, 2 ** 31, 2 ** 31 + 2, 2 ** 32 + 5].map((unit) => map.has(unit))).toEqual([
      false,
      true,
      true,
      false,
      true,
    ])
    expect(map.countOfRun(2 ** 31 - 8, 16, none)).toBe(4)
  })
})
