import type { BlockRun } from './inode'

/** So many blocks of a file are told by its inode itself; those behind them by lists (Linux kernel documentation, ext4, 4.3.1). */
const TOLD_BY_INODE = 12
const MOST_DEPTH = 3
/** How many lists of lists are tried behind one list, and how many lists for a file of which the first blocks lie apart. */
const MOST_NEXT = 16
const MOST_APART = 200

/**
 * Whether a list of block numbers may begin there: told by its first four numbers, so that it costs next to nothing.
 * Files mostly go on from one block to the next.
 */
export function mayBeginList(block: Uint8Array, at: number, blocks: number): boolean {
  if (block[at + 3]! * 0x1000000 >= blocks || at + 16 > block.length) return false
  const [first, second, third, fourth] = [0, 4, 8, 12].map((skip) => u32(block, at + skip)) as [
    number,
    number,
    number,
    number,
  ]
  if (first === 0 || first >= blocks) return false
  if (second === 0) return third === 0 && fourth === 0
  if (second >= blocks || third >= blocks || fourth >= blocks) return false
  return second === first + 1 || third === second + 1
}

/** The numbers of a list: a block that holds them without a gap, and nothing behind them. Null where it is none. */
export function readList(bytes: Uint8Array, blocks: number): number[] | null {
  const numbers: number[] = []
  let at = 0
  for (; at + 4 <= bytes.length; at += 4) {
    const number = u32(bytes, at)
    if (number === 0) break
    if (number >= blocks) return null
    numbers.push(number)
  }
  for (; at < bytes.length; at++) if (bytes[at] !== 0) return null
  return numbers.length > 0 && new Set(numbers).size === numbers.length ? numbers : null
}

const u32 = (bytes: Uint8Array, at: number) =>
  bytes[at]! + bytes[at + 1]! * 0x100 + bytes[at + 2]! * 0x10000 + bytes[at + 3]! * 0x1000000

/**
 * The lists of block numbers that stand in free blocks. ext2 and ext3 clear the numbers in the inode of a deleted file, but
 * leave the lists: with them, a file that is known by its beginning is known in all of its pieces. All numbers are
 * those of blocks.
 */
export class Lists {
  private readonly byBlock: ReadonlyMap<number, readonly number[]>
  private readonly depths = new Map<number, number>()
  private readonly inOthers = new Set<number>()
  private readonly firsts = new Map<number, number[]>()

  constructor(
    lists: Iterable<readonly [block: number, numbers: readonly number[]]>,
    /** how many numbers a full list holds */
    private readonly perList: number,
  ) {
    this.byBlock = new Map(lists)
    for (const block of this.byBlock.keys())
      if (this.depthOf(block) > 1) for (const number of this.byBlock.get(block)!) this.inOthers.add(number)
    for (const [block, [first]] of this.byBlock)
      if (this.depthOf(block) === 1) this.firsts.set(first!, [...(this.firsts.get(first!) ?? []), block])
  }

  /** How a file that begins in a block may go on, likeliest first. Only such of which a list was found. */
  *layouts(start: number): Iterable<{ runs: BlockRun[]; isTold: boolean }> {
    const head = numbersFrom(start, TOLD_BY_INODE)
    const behind = start + TOLD_BY_INODE
    for (const list of this.firsts.get(behind) ?? []) yield* this.behindList(head, list, true)
    // The list itself was put right behind the first blocks, and what it tells of behind that.
    for (const list of this.firsts.get(behind + 1) ?? []) if (list === behind) yield* this.behindList(head, list, true)
    let tried = 0
    for (const [first, lists] of this.firsts)
      for (const list of lists) {
        if (this.inOthers.has(list)) continue
        if (++tried > MOST_APART) return
        // The first blocks in two places: the later ones before those that the list begins with.
        for (let apart = 1; apart < TOLD_BY_INODE; apart++) {
          const rest = TOLD_BY_INODE - apart
          if (first - rest < 1 || first - rest === start + apart) continue
          yield* this.behindList([...numbersFrom(start, apart), ...numbersFrom(first - rest, rest)], list, false)
        }
      }
  }

  private *behindList(
    head: readonly number[],
    list: number,
    isTold: boolean,
  ): Iterable<{ runs: BlockRun[]; isTold: boolean }> {
    const blocks = [...head, ...this.byBlock.get(list)!]
    if (this.byBlock.get(list)!.length < this.perList) return yield { runs: runsOfNumbers(blocks), isTold }
    const next = [...this.listsOfDepth(2)].sort((a, b) => this.distance(a, blocks) - this.distance(b, blocks))
    for (const second of next.slice(0, MOST_NEXT)) {
      const more = [...blocks, ...this.flat(second, 2)]
      if (this.byBlock.get(second)!.length === this.perList)
        for (const third of [...this.listsOfDepth(3)].slice(0, MOST_NEXT))
          yield { runs: runsOfNumbers([...more, ...this.flat(third, 3)]), isTold }
      yield { runs: runsOfNumbers(more), isTold }
    }
    yield { runs: runsOfNumbers(blocks), isTold }
  }

  private *listsOfDepth(depth: number): Iterable<number> {
    for (const block of this.byBlock.keys()) if (this.depthOf(block) === depth) yield block
  }

  /** how far behind the last block so far the first one of a list of lists lies */
  private distance(list: number, blocks: readonly number[]): number {
    const [first] = this.flat(list, this.depthOf(list))
    return first === undefined ? Infinity : Math.abs(first - blocks.at(-1)! - 1)
  }

  /** 1 for a list of blocks of a file, 2 for a list of such lists, 3 for a list of those */
  private depthOf(block: number): number {
    const known = this.depths.get(block)
    if (known !== undefined) return known
    this.depths.set(block, 1)
    const numbers = this.byBlock.get(block)!
    const isOfLists = numbers.every((number) => number !== block && this.byBlock.has(number))
    const depth = isOfLists ? 1 + Math.max(...numbers.map((number) => this.depthOf(number))) : 1
    const told = depth > MOST_DEPTH ? 1 : depth
    this.depths.set(block, told)
    return told
  }

  private flat(block: number, depth: number): number[] {
    const numbers = this.byBlock.get(block) ?? []
    return depth === 1 ? [...numbers] : numbers.flatMap((number) => this.flat(number, depth - 1))
  }
}

const numbersFrom = (first: number, count: number) => Array.from({ length: count }, (_, index) => first + index)

function runsOfNumbers(numbers: readonly number[]): BlockRun[] {
  const runs: { logical: number; physical: number; count: number }[] = []
  for (const [logical, physical] of numbers.entries()) {
    const last = runs.at(-1)
    if (last && last.physical + last.count === physical) last.count++
    else runs.push({ logical, physical, count: 1 })
  }
  return runs
}
