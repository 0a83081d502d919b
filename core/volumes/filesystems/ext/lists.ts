import type { BlockRun } from './inode'

/** Number of blocks listed in the inode itself; further ones are in indirect blocks (Linux kernel documentation, ext4, 4.3.1). */
const TOLD_BY_INODE = 12
const MAX_DEPTH = 3
/**
 * How many lists of lists are tried behind one list; how many lists for a file whose first blocks are apart, and from
 * how many blocks before the place where it broke.
 */
const MAX_NEXT = 16
const MAX_APART = 64
const MAX_BACK = 2

/**
 * Whether a list of block numbers may begin here: its first four numbers decide, so that this costs next to nothing.
 * Files are mostly contiguous.
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

/** The numbers of a list: they fill a block from its start without a gap. Null where it is no list. */
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

/** The blocks of a file, as far as lists give them, and how it may continue behind them. */
export interface Listed {
  readonly runs: readonly BlockRun[]
  /** whether a list continues exactly where its first blocks end */
  readonly isTold: boolean
  readonly more: () => Iterable<Listed>
}

/**
 * The lists of block numbers (indirect blocks) in free blocks. ext2 and ext3 clear the numbers in the inode of a
 * deleted file but leave these lists: with them, a file whose beginning is known is known in all of its fragments. All
 * numbers are block numbers.
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

  /**
   * How a file that begins in a block may continue, likeliest first: only ways for which a list was found. It was
   * followed contiguously for this many blocks; Infinity where it parses contiguously, and then only recorded blocks
   * are of use.
   */
  *layouts(start: number, followed: number): Iterable<Listed> {
    const head = numbersFrom(start, TOLD_BY_INODE)
    const behind = start + TOLD_BY_INODE
    let isTold = false
    for (const list of this.firsts.get(behind) ?? []) {
      isTold = true
      yield this.listed(head, list, true)
    }
    // The list itself was placed right behind the first blocks, and the blocks that it lists behind it.
    if (this.firsts.get(behind + 1)?.includes(behind)) {
      isTold = true
      yield this.listed(head, behind, true)
    }
    if (isTold || followed === Infinity) return
    // Some formats show only at their end that they were cut.
    const [most, least] = followed < TOLD_BY_INODE ? [followed, followed - MAX_BACK] : [TOLD_BY_INODE - 1, 1]
    // The first blocks in two fragments: the later ones precede those that a list begins with.
    const distance = (list: number) => Math.abs(this.byBlock.get(list)![0]! - start)
    const near = [...this.firsts.values()]
      .flat()
      .filter((list) => !this.inOthers.has(list))
      .sort((a, b) => distance(a) - distance(b))
    for (const list of near.slice(0, MAX_APART)) {
      const [first] = this.byBlock.get(list)!
      for (let apart = Math.max(1, most); apart >= Math.max(1, least); apart--) {
        const rest = TOLD_BY_INODE - apart
        if (first! - rest < 1 || first! - rest === start + apart) continue
        yield this.listed([...numbersFrom(start, apart), ...numbersFrom(first! - rest, rest)], list, false)
      }
    }
  }

  private listed(head: readonly number[], list: number, isTold: boolean): Listed {
    const numbers = this.byBlock.get(list)!
    const blocks = [...head, ...numbers]
    const more = numbers.length < this.perList ? () => [] : () => this.behindLists(blocks, 2, isTold)
    return { runs: runsOfNumbers(blocks), isTold, more }
  }

  /** What a list of lists adds, nearest first. */
  private *behindLists(blocks: readonly number[], depth: number, isTold: boolean): Iterable<Listed> {
    const last = blocks.at(-1)!
    const lists = [...this.listsOfDepth(depth)].sort((a, b) => this.distance(a, last) - this.distance(b, last))
    for (const list of lists.slice(0, MAX_NEXT)) {
      const longer = [...blocks, ...this.flat(list, depth)]
      const isFull = depth < MAX_DEPTH && this.byBlock.get(list)!.length === this.perList
      yield {
        runs: runsOfNumbers(longer),
        isTold,
        more: () => (isFull ? this.behindLists(longer, depth + 1, isTold) : []),
      }
    }
  }

  private *listsOfDepth(depth: number): Iterable<number> {
    for (const block of this.byBlock.keys()) if (this.depthOf(block) === depth) yield block
  }

  /** the distance from the last block so far to the first one of a list of lists */
  private distance(list: number, last: number): number {
    let first = list
    for (let depth = this.depthOf(list); depth > 0; depth--) first = this.byBlock.get(first)![0]!
    return Math.abs(first - last - 1)
  }

  /** 1 for a list of blocks of a file, 2 for a list of such lists, 3 for a list of those */
  private depthOf(block: number): number {
    const known = this.depths.get(block)
    if (known !== undefined) return known
    this.depths.set(block, 1)
    const numbers = this.byBlock.get(block)!
    const isOfLists = numbers.every((number) => number !== block && this.byBlock.has(number))
    const depth = isOfLists ? 1 + Math.max(...numbers.map((number) => this.depthOf(number))) : 1
    const told = depth > MAX_DEPTH ? 1 : depth
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
