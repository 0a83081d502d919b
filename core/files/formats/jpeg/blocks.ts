import { bitsOf, ENDS_BLOCK, entryOf, extended, sizeOf, zerosOf, type Codes, type CodeTable } from './code-table'

export interface Component {
  readonly id: number
  readonly h: number
  readonly v: number
  /** the DC quantisation step, by which the DC value of a block is multiplied */
  step: number
}

export interface Frame {
  readonly isProgressive: boolean
  readonly width: number
  readonly height: number
  readonly depth: number
  readonly components: readonly Component[]
}

export interface Scan {
  readonly frame: Frame
  readonly parts: readonly {
    readonly component: Component
    readonly dc: CodeTable | null
    readonly ac: CodeTable | null
  }[]
  readonly from: number
  readonly to: number
  readonly high: number
  readonly low: number
  readonly restartEvery: number
  /** which coefficients of each block are not zero after the scans so far; null where that is not needed */
  readonly seen: Seen | null
}

/** One bit for each coefficient of each block of a component: two 32-bit numbers a block. */
export type Seen = Uint32Array

/** What decoding needs of the blocks of a unit, one entry a block. */
export interface Blocks {
  readonly count: number
  readonly partOf: Uint8Array
  readonly dc: readonly (CodeTable | null)[]
  readonly ac: readonly (CodeTable | null)[]
  /** of a sequential scan: the AC codes of each block one by one, and several at once, with as many bits looked up */
  readonly one: readonly Codes[]
  readonly several: readonly Int32Array[]
  readonly ahead: number
  /** the largest DC value */
  readonly most: Int32Array
}

/** A decoder on its way through a scan. */
export interface Course {
  readonly bytes: Uint8Array
  bit: number
  readonly means: Int32Array
  /** how many further blocks have no new coefficient (EOBRUN) */
  run: number
  unit: number
  fault: string | null
}

/** Decodes some units, none of which begins at `stop` (a bit) or later; moves the course, and returns nothing. */
export type Decode = (course: Course, scan: Scan, blocks: Blocks, most: number, stop: number) => void

const NO_CODE = 'invalid Huffman code'
const TOO_MANY = 'block has too many coefficients'

/** Looking up many bits at once is worth its table only in a large picture. */
const AHEAD = { large: 15, small: 10 }
const LARGE_BLOCKS = 30_000

export function blocksOfUnit({ frame, parts, low }: Scan, units: number): Blocks {
  const partOf =
    parts.length === 1
      ? [0]
      : parts.flatMap(({ component }, index) => Array<number>(component.h * component.v).fill(index))
  // A DC value is at most eight times half of the sample range, rounded to a quantisation step.
  const range = 4 * 2 ** frame.depth + 8
  const ac = partOf.map((index) => parts[index]!.ac)
  const ahead = units * partOf.length > LARGE_BLOCKS ? AHEAD.large : AHEAD.small
  const isRead = !frame.isProgressive && ac.every((table) => table !== null)
  return {
    count: partOf.length,
    partOf: Uint8Array.from(partOf),
    dc: partOf.map((index) => parts[index]!.dc),
    ac,
    one: isRead ? ac.map((table) => table!.one) : [],
    several: isRead ? ac.map((table) => table!.several(ahead)) : [],
    ahead,
    most: Int32Array.from(partOf, (index) => {
      const step = Math.max(1, parts[index]!.component.step)
      return Math.floor((range + step) / step / 2 ** low)
    }),
  }
}

/** How the blocks of a scan are coded; a message where its tables are missing. */
export function decoderOf({ frame, from, to, high, parts }: Scan): Decode | string {
  const hasDc = from > 0 || high > 0 || parts.every(({ dc }) => dc !== null)
  if (!hasDc || (to > 0 && parts.some(({ ac }) => ac === null))) return NO_CODE
  if (!frame.isProgressive) return sequential
  if (from === 0) return high > 0 ? refinedMeans : firstMeans
  return high > 0 ? refinedBlocks : firstBlocks
}

/** Sixteen bits from a position on. */
const peek = (bytes: Uint8Array, bit: number) => {
  const at = bit >> 3
  return (((bytes[at]! << 16) | (bytes[at + 1]! << 8) | bytes[at + 2]!) >> (8 - (bit & 7))) & 0xffff
}

/** The next so many bits (up to 16) as a number. */
const take = (bytes: Uint8Array, bit: number, size: number) => peek(bytes, bit) >> (16 - size)

/** Takes a DC difference; returns the position behind it, or -1 where it is invalid. */
function takeMean(course: Course, { dc, partOf, most }: Blocks, block: number, at: number): number {
  const { bytes, means } = course
  const entry = entryOf(dc[block]!.one, peek(bytes, at))
  if (entry === 0 || zerosOf(entry) > 0) {
    course.fault = NO_CODE
    return -1
  }
  const size = sizeOf(entry)
  const behind = at + bitsOf(entry)
  if (size === 0) return behind
  const mean = (means[partOf[block]!]! += extended(take(bytes, behind - size, size), size))
  if (mean > most[block]! || mean < -most[block]!) {
    course.fault = 'DC coefficient out of range'
    return -1
  }
  return behind
}

const sequential: Decode = (course, { frame }, blocks, most, stop) => {
  const { bytes } = course
  // An AC coefficient has two bits more than a sample at most (F.1.2.2).
  const longest = frame.depth + 2
  const { several, one } = blocks
  const shift = 16 - blocks.ahead
  const until = course.unit + most
  let bit = course.bit
  for (; course.unit < until && bit < stop; course.unit++) {
    for (let block = 0; block < blocks.count; block++) {
      const first = takeMean(course, blocks, block, bit)
      if (first < 0) {
        course.bit = bit
        return
      }
      bit = first
      const [some, single] = [several[block]!, one[block]!]
      for (let at = 1; at < 64;) {
        const next = peek(bytes, bit)
        const codes = some[next >> shift]!
        const passed = at + ((codes >> 8) & 255)
        if (codes !== 0 && passed < 64) {
          bit += codes & 255
          if (codes >= ENDS_BLOCK) break
          at = passed
          continue
        }
        const entry = entryOf(single, next)
        const [size, zeros] = [sizeOf(entry), zerosOf(entry)]
        at += zeros + 1
        const isNone = entry === 0 || size > longest || (size === 0 && zeros > 0 && zeros < 15)
        if (isNone || (at > 64 && (size > 0 || zeros > 0))) {
          course.fault = isNone ? NO_CODE : TOO_MANY
          course.bit = bit
          return
        }
        bit += bitsOf(entry)
        if (size === 0 && zeros === 0) break
      }
    }
  }
  course.bit = bit
}

const firstMeans: Decode = (course, _, blocks, most, stop) => {
  const until = course.unit + most
  for (; course.unit < until && course.bit < stop; course.unit++)
    for (let block = 0; block < blocks.count; block++) {
      const behind = takeMean(course, blocks, block, course.bit)
      if (behind < 0) return
      course.bit = behind
    }
}

/** One more bit for each block (G.1.2.1). */
const refinedMeans: Decode = (course, _, { count }, most, stop) => {
  const units = Math.min(most, Math.max(1, Math.ceil((stop - course.bit) / count)))
  course.unit += units
  course.bit += units * count
}

/** The first scan of some AC coefficients (G.1.2.2). */
const firstBlocks: Decode = (course, { from, to, seen }, blocks, most, stop) => {
  const { bytes } = course
  const table = blocks.ac[0]!.one
  const until = course.unit + most
  let { bit, unit, run } = course
  const leave = (fault: string | null) => Object.assign(course, { bit, unit, run, fault })
  while (unit < until && bit < stop) {
    if (run > 0) {
      const skipped = Math.min(run, until - unit)
      run -= skipped
      unit += skipped
      continue
    }
    for (let at = from; at <= to; at++) {
      const entry = entryOf(table, peek(bytes, bit))
      if (entry === 0) return void leave(NO_CODE)
      const [size, zeros] = [sizeOf(entry), zerosOf(entry)]
      bit += bitsOf(entry)
      if (size === 0 && zeros < 15) {
        run = (1 << zeros) - 1
        if (zeros > 0) run += take(bytes, bit, zeros)
        bit += zeros
        break
      }
      at += zeros
      if (at > to) return void leave(TOO_MANY)
      if (size > 0) seen![unit * 2 + (at >> 5)]! |= 1 << (at & 31)
    }
    unit++
  }
  leave(null)
}

/**
 * One more bit for each coefficient that is not zero, and coefficients that become so (G.1.2.3). The bits of those that are known
 * can have any value, so they are only counted.
 */
const refinedBlocks: Decode = (course, { from, to, seen }, blocks, most, stop) => {
  const { bytes } = course
  const table = blocks.ac[0]!.one
  const [lowMask, highMask] = masksOf(from, to)
  const until = course.unit + most
  let { bit, unit, run } = course
  const leave = (fault: string | null) => Object.assign(course, { bit, unit, run, fault })
  for (; unit < until && bit < stop; unit++) {
    const [low, high] = [seen![unit * 2]! & lowMask, seen![unit * 2 + 1]! & highMask]
    if (run > 0) {
      bit += onesIn(low) + onesIn(high)
      run--
      continue
    }
    let at = from
    while (at <= to) {
      const entry = entryOf(table, peek(bytes, bit))
      const [zeros, size] = [zerosOf(entry), sizeOf(entry)]
      if (entry === 0 || size > 1) return void leave(NO_CODE)
      bit += bitsOf(entry)
      if (size === 0 && zeros < 15) {
        run = (1 << zeros) - 1
        if (zeros > 0) run += take(bytes, bit, zeros)
        bit += zeros
        bit += onesIn(low & lowFrom(at)) + onesIn(high & highFrom(at))
        break
      }
      // Passes so many coefficients that are still zero, up to the next one that is.
      let left = zeros
      let open = ~low & lowMask & lowFrom(at)
      for (; left > 0 && open !== 0; left--) open &= open - 1
      let place = open === 0 ? to + 1 : 31 - Math.clz32(open & -open)
      if (open === 0) {
        open = ~high & highMask & highFrom(at)
        for (; left > 0 && open !== 0; left--) open &= open - 1
        if (open !== 0) place = 63 - Math.clz32(open & -open)
      }
      bit += place - at - (zeros - left)
      at = place
      if (size > 0 && at > to) return void leave('invalid refinement of a block')
      if (size > 0) seen![unit * 2 + (at >> 5)]! |= 1 << (at & 31)
      at++
    }
  }
  leave(null)
}

/** The bits of the coefficients from one on, in each of two words. */
const lowFrom = (at: number) => (at < 32 ? -1 << at : 0)
const highFrom = (at: number) => (at < 32 ? -1 : -1 << (at - 32))

/** The coefficients from one to another as bits of two 32-bit numbers. */
export function masksOf(from: number, to: number): [number, number] {
  const mask = [0, 0]
  for (let at = from; at <= to; at++) mask[at >> 5]! |= 1 << (at & 31)
  return [mask[0]!, mask[1]!]
}

function onesIn(word: number): number {
  let left = word - ((word >>> 1) & 0x55555555)
  left = (left & 0x33333333) + ((left >>> 2) & 0x33333333)
  return Math.imul((left + (left >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24
}
