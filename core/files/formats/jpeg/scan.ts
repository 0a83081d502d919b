import type { ByteSource } from '../../../sources/source'
import {
  blocksOfUnit,
  decoderOf,
  masksOf,
  type Component,
  type Course,
  type Frame,
  type Scan,
  type Seen,
} from './blocks'
import { EntropyData } from './entropy-data'

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

const ENDS_EARLY = 'entropy-coded data ends early'

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
