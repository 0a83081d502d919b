import type { ByteSource } from '../../../sources/source'
import { bitsOf, ENDS_BLOCK, extended, sizeOf, zerosOf, type CodeTable } from './code-table'
import { EntropyData } from './entropy-data'

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

/** Where decoding can begin anew: before a unit, at a bit of a byte of the source. */
export interface ScanState {
  readonly unit: number
  readonly means: readonly number[]
  readonly run: number
  readonly restarts: number
  readonly at: number
  readonly bit: number
}

export interface ScanEnd {
  /** offset of the marker that ends the scan, or of the fault */
  readonly at: number
  readonly fault: string | null
  /** states of the decoder at some earlier places, latest last */
  readonly states: readonly { readonly at: number; readonly state: ScanState }[]
}

/** States are kept shortly before each place at which a file may be cut, as far back as cuts are tried (`core/scanning/join.ts`). */
const STATES = 72
const MIN_STATE_BYTES = 2048
/** How far before the place, in bytes: more than nearly every unit. */
const STATE_AHEAD = 1024

/** How many blocks of 8 by 8 a component has in a scan of its own (ISO/IEC 10918-1, A.2.2). */
export function blocksOf({ width, height, components }: Frame, { h, v }: Component): { across: number; down: number } {
  const hMost = Math.max(...components.map((one) => one.h))
  const vMost = Math.max(...components.map((one) => one.v))
  return { across: Math.ceil(Math.ceil((width * h) / hMost) / 8), down: Math.ceil(Math.ceil((height * v) / vMost) / 8) }
}

/** What decoding needs of the blocks of a unit, one entry a block. */
interface Blocks {
  readonly count: number
  readonly partOf: Uint8Array
  readonly dc: readonly (CodeTable | null)[]
  readonly ac: readonly (CodeTable | null)[]
  /** of a sequential scan: the AC codes of each block one by one, and several at once, with as many bits looked up */
  readonly one: readonly Int32Array[]
  readonly several: readonly Int32Array[]
  readonly ahead: number
  /** the largest DC value */
  readonly most: Int32Array
}

/** A decoder on its way through a scan. */
interface Course {
  readonly bytes: Uint8Array
  bit: number
  readonly means: Int32Array
  /** how many further blocks have no new coefficient (EOBRUN) */
  run: number
  unit: number
  fault: string | null
}

/** Decodes some units, none of which begins at `stop` (a bit) or later; moves the course, and returns nothing. */
type Decode = (course: Course, scan: Scan, blocks: Blocks, most: number, stop: number) => void

const ENDS_EARLY = 'entropy-coded data ends early'
const NO_CODE = 'invalid Huffman code'
const TOO_MANY = 'block has too many coefficients'

/**
 * Decodes the entropy-coded data of a scan without making a picture, only to prove that it is whole: every code is
 * valid, every block has exactly 64 coefficients, DC values stay in range, there are as many blocks as the frame has,
 * and nothing is left before the marker (ISO/IEC 10918-1, F.2 and G.2). `unitBytes`: of the medium, for the states.
 */
export function decodeScan(source: ByteSource, at: number, scan: Scan, unitBytes: number, from?: ScanState): ScanEnd {
  const { parts, restartEvery } = scan
  const units = unitsOf(scan)
  const blocks = blocksOfUnit(scan, units)
  const data = new EntropyData(source)
  data.begin(from?.at ?? at)
  const course: Course = {
    bytes: data.bytes,
    bit: from?.bit ?? 0,
    means: Int32Array.from(parts, (_, index) => from?.means[index] ?? 0),
    run: from?.run ?? 0,
    unit: from?.unit ?? 0,
    fault: null,
  }
  let restarts = from?.restarts ?? 0
  const states: { at: number; state: ScanState }[] = []
  const every = Math.max(MIN_STATE_BYTES, unitBytes)
  const ahead = STATE_AHEAD + every / 64
  // A code that no longer fits may have begun up to two bytes before the first of them that is wrong.
  const broken = (fault: string): ScanEnd => ({
    at: Math.min(data.offsetOf(Math.min((course.bit + 16) >> 3, data.bits >> 3)), source.size),
    fault,
    states,
  })
  const { seen } = scan
  const refines = scan.from > 0 && scan.high > 0
  // States beyond the place where decoding resumes belong to another reading.
  if (seen && !refines) forget(seen, course.unit, scan)
  const decode = decoderOf(scan)
  if (typeof decode === 'string') return broken(decode)

  let nextState = 0
  while (course.unit < units) {
    if (restartEvery > 0 && restarts < Math.floor(course.unit / restartEvery)) {
      if (course.run > 0 || !isAtEnd(data, course)) return broken('restart interval is incomplete')
      const mark = markerAt(source, data.end)
      if (mark.value !== 0xd0 + (restarts & 7)) return broken('restart marker is missing')
      restarts++
      data.begin(mark.end)
      course.bit = 0
      course.means.fill(0)
    }
    if (!data.isLast && course.bit >= data.stop) course.bit = data.advance(course.bit)
    const here = data.offsetOf(course.bit >> 3)
    if (here >= nextState) {
      const { unit, run, bit } = course
      states.push({ at: here, state: { unit, means: [...course.means], run, restarts, at: here, bit: bit & 7 } })
      if (states.length > STATES) states.shift()
      nextState = Math.floor((here + ahead) / every + 1) * every - ahead
    }
    const left = units - course.unit
    const most = restartEvery > 0 ? Math.min(left, restartEvery - (course.unit % restartEvery)) : left
    const stateStop = course.bit + Math.max(1, nextState - here) * 8
    decode(course, scan, blocks, most, Math.min(data.stop, stateStop))
    if (course.fault) return broken(course.fault)
    if (data.isLast && course.bit > data.bits) return broken(ENDS_EARLY)
  }
  if (course.run > 0 || !isAtEnd(data, course)) return broken('more entropy-coded data than the frame size needs')
  const end = markerAt(source, data.end)
  return end.value < 0 ? broken('marker after the scan is missing') : { at: end.at, fault: null, states }
}

function unitsOf({ frame, parts }: Scan): number {
  const [only] = parts
  const hMost = Math.max(...frame.components.map(({ h }) => h))
  const vMost = Math.max(...frame.components.map(({ v }) => v))
  const { across, down } =
    parts.length === 1
      ? blocksOf(frame, only!.component)
      : { across: Math.ceil(frame.width / (8 * hMost)), down: Math.ceil(frame.height / (8 * vMost)) }
  return across * down
}

/** Looking up many bits at once is worth its table only in a large picture. */
const AHEAD = { large: 15, small: 10 }
const LARGE_BLOCKS = 30_000

function blocksOfUnit({ frame, parts, low }: Scan, units: number): Blocks {
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
function decoderOf({ frame, from, to, high, parts }: Scan): Decode | string {
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
  const entry = dc[block]!.one[peek(bytes, at)]!
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
        const entry = single[next]!
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
      const entry = table[peek(bytes, bit)]!
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
      const entry = table[peek(bytes, bit)]!
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
function masksOf(from: number, to: number): [number, number] {
  const mask = [0, 0]
  for (let at = from; at <= to; at++) mask[at >> 5]! |= 1 << (at & 31)
  return [mask[0]!, mask[1]!]
}

function onesIn(word: number): number {
  let left = word - ((word >>> 1) & 0x55555555)
  left = (left & 0x33333333) + ((left >>> 2) & 0x33333333)
  return Math.imul((left + (left >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24
}

/** At the end of a scan or restart interval: whether only the padding of the last byte is left, which is all ones (F.1.2.3). */
function isAtEnd(data: EntropyData, course: Course): boolean {
  const left = () => data.bits - course.bit
  if (left() < 8 && !data.isLast) course.bit = data.advance(course.bit)
  if (!data.isLast || left() >= 8 || left() < 0) return false
  const padding = (1 << left()) - 1
  return left() === 0 || (data.bytes[course.bit >> 3]! & padding) === padding
}

function forget(seen: Seen, fromUnit: number, { from, to }: Scan): void {
  const [low, high] = masksOf(from, to)
  for (let at = fromUnit * 2; at < seen.length; at += 2) {
    seen[at]! &= ~low
    seen[at + 1]! &= ~high
  }
}

/** A marker and where it begins and ends, whatever fill bytes stand before it (B.1.1.2); -1 where there is none. */
function markerAt(source: ByteSource, at: number): { value: number; at: number; end: number } {
  const bytes = source.read(at, FILL_BYTES)
  let next = 0
  if (bytes[0] !== 0xff) return { value: -1, at, end: at }
  while (bytes[next + 1] === 0xff) next++
  return { value: bytes[next + 1] ?? -1, at: at + next, end: at + next + 2 }
}

const FILL_BYTES = 256
