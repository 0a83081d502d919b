import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { BlockRun } from './inode'
import { Lists, mayBeginList, readList, type Listed } from './lists'

const BLOCKS = 100_000
/** As many numbers as a list of these tests holds: few, so that lists of lists are needed soon. */
const PER_LIST = 8

/** A block of 64 bytes with numbers in it. */
function block(numbers: readonly number[], bytes = 64): Uint8Array {
  const made = new Uint8Array(bytes)
  const view = new DataView(made.buffer)
  for (const [at, number] of numbers.entries()) view.setUint32(at * 4, number, true)
  return made
}

const numbersOf = (runs: readonly BlockRun[]) =>
  runs.flatMap(({ physical, count }) => Array.from({ length: count }, (_, at) => physical! + at))

/** Every continuation that the indirect blocks give, with what follows it. */
function* every(layouts: Iterable<Listed>): Iterable<Listed> {
  for (const layout of layouts) {
    yield layout
    yield* every(layout.more())
  }
}

/** Puts a file's blocks down as ext2 does: twelve numbers in the inode, then lists, lists of lists and lists of those. */
function putDown(blocks: readonly number[], listAt: () => number): [number, number[]][] {
  const lists: [number, number[]][] = []
  let next = 12
  const list = (depth: number): number => {
    const own = listAt()
    const numbers: number[] = []
    while (numbers.length < PER_LIST && next < blocks.length)
      numbers.push(depth === 1 ? blocks[next++]! : list(depth - 1))
    lists.push([own, numbers])
    return own
  }
  for (let depth = 1; depth <= 3 && next < blocks.length; depth++) list(depth)
  return lists
}

describe('a block of numbers', () => {
  it('is a list where they go to its end or to its zeros', () => {
    expect(readList(block([700, 701, 702]), BLOCKS)).toEqual([700, 701, 702])
    expect(readList(block(Array.from({ length: 16 }, (_, at) => 50 + at)), BLOCKS)).toHaveLength(16)
    expect(mayBeginList(block([700, 701, 702, 703]), 0, BLOCKS)).toBe(true)
    expect(mayBeginList(block([700]), 0, BLOCKS)).toBe(true)
  })

  it.each([
    ['nothing', []],
    ['a number behind the volume', [700, BLOCKS]],
    ['the same number twice', [700, 701, 700]],
    ['something behind its zeros', [700, 0, 701]],
  ])('is none with %s', (_, numbers) => {
    expect(readList(block(numbers), BLOCKS)).toBeNull()
  })

  it('is not searched for in text or in what never continues from block to block', () => {
    expect(mayBeginList(new TextEncoder().encode('Sluice lock towpath.'), 0, BLOCKS)).toBe(false)
    expect(mayBeginList(block([5, 900, 30, 4000]), 0, BLOCKS)).toBe(false)
  })
})

describe('what a deleted file left of its lists', () => {
  it('gives the file back in all of its pieces, from its first blocks on', () => {
    fc.assert(
      fc.property(
        fc.array(fc.integer({ min: 1, max: 9 }), { minLength: 1, maxLength: 30 }),
        fc.integer({ min: 13, max: 12 + PER_LIST + PER_LIST ** 2 + 40 }),
        (gaps, length) => {
          // The first blocks are contiguous; the rest is fragmented, with its indirect blocks far behind.
          let place = 1000
          const blocks = Array.from({ length }, (_, at) =>
            at < 13 || at % 5 ? place++ : (place += gaps[at % gaps.length]!) && place++,
          )
          let behind = 50_000
          const lists = new Lists(
            putDown(blocks, () => behind++),
            PER_LIST,
          )
          const told = [...every(lists.layouts(1000, 12))].filter(({ isTold }) => isTold)
          expect(told.map(({ runs }) => numbersOf(runs).join())).toContain(blocks.join())
        },
      ),
    )
  })

  it('is found where the indirect block is between the direct blocks and the rest', () => {
    const lists = new Lists([[112, [113, 114, 115]]], PER_LIST)
    const [layout] = lists.layouts(100, 12)
    expect(layout).toMatchObject({ isTold: true })
    expect(numbersOf(layout!.runs)).toEqual([...Array.from({ length: 12 }, (_, at) => 100 + at), 113, 114, 115])
  })

  it('is a guess where the direct blocks are fragmented, and none where the file fits in one piece', () => {
    const lists = new Lists([[900, [508, 509]]], PER_LIST)
    const guessed = [...lists.layouts(100, 4)]
    expect(guessed.every(({ isTold }) => !isTold)).toBe(true)
    expect(guessed.map(({ runs }) => numbersOf(runs))).toContainEqual([
      100, 101, 102, 103, 500, 501, 502, 503, 504, 505, 506, 507, 508, 509,
    ])
    expect([...lists.layouts(100, Infinity)]).toEqual([])
  })

  it('does no harm where lists name each other in a circle', () => {
    const lists = new Lists(
      [
        [20, [21]],
        [21, [20]],
        [22, [22]],
      ],
      PER_LIST,
    )
    for (const start of [8, 9, 10, 20]) expect([...every(lists.layouts(start, 12))].length).toBeLessThan(2000)
  })
})
