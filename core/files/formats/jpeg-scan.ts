import { BitReader, extended, type CodeTable } from './jpeg-huffman'

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

export interface ScanState {
  readonly unit: number
  readonly means: readonly number[]
  readonly run: number
  readonly restarts: number
  readonly bits: { at: number; buffer: number; count: number; marker: number }
}

export interface ScanEnd {
  /** offset of the marker that ends the scan, or of the fault */
  readonly at: number
  readonly fault: string | null
  /** states of the decoder at some earlier places, latest last */
  readonly states: readonly { readonly at: number; readonly state: ScanState }[]
}

const STATE_EVERY = 2048
const STATES = 24

/** How many blocks of 8 by 8 a component has in a scan of its own (ISO/IEC 10918-1, A.2.2). */
export function blocksOf({ width, height, components }: Frame, { h, v }: Component): { across: number; down: number } {
  const hMost = Math.max(...components.map((one) => one.h))
  const vMost = Math.max(...components.map((one) => one.v))
  return { across: Math.ceil(Math.ceil((width * h) / hMost) / 8), down: Math.ceil(Math.ceil((height * v) / vMost) / 8) }
}

/**
 * Decodes the entropy-coded data of a scan without making a picture, only to prove that it is whole: every code is
 * valid, every block has exactly 64 coefficients, DC values stay in range, there are as many blocks as the frame has,
 * and nothing is left before the marker (ISO/IEC 10918-1, F.2 and G.2).
 */
export function decodeScan(bytes: Uint8Array, at: number, scan: Scan, from?: ScanState): ScanEnd {
  const { frame, parts } = scan
  const isSingle = parts.length === 1
  const hMost = Math.max(...frame.components.map(({ h }) => h))
  const vMost = Math.max(...frame.components.map(({ v }) => v))
  const { across, down } = isSingle
    ? blocksOf(frame, parts[0]!.component)
    : { across: Math.ceil(frame.width / (8 * hMost)), down: Math.ceil(frame.height / (8 * vMost)) }
  const units = across * down
  const blocks = isSingle
    ? [0]
    : parts.flatMap(({ component }, index) => Array<number>(component.h * component.v).fill(index))
  const reader = new BitReader(bytes, at)
  const means = from ? [...from.means] : parts.map(() => 0)
  let run = from?.run ?? 0
  let restarts = from?.restarts ?? 0
  if (from) reader.restore(from.bits)
  const states: { at: number; state: ScanState }[] = []
  let nextState = reader.at
  const broken = (fault: string): ScanEnd => ({
    at: Math.min(bytes.length, reader.marker >= 0 ? reader.marker : reader.at),
    fault,
    states,
  })
  // A DC value is at most eight times half of the sample range, rounded to a quantisation step.
  const meanMost = 4 * 2 ** frame.depth + 8
  const { seen } = scan
  const refines = scan.from > 0 && scan.high > 0
  // States beyond the place where decoding resumes belong to another reading.
  if (seen && !refines) forget(seen, from?.unit ?? 0, scan)

  for (let unit = from?.unit ?? 0; unit < units; unit++) {
    if (scan.restartEvery > 0 && unit > 0 && unit % scan.restartEvery === 0 && unit !== from?.unit) {
      if (run > 0 || !reader.isAtEnd()) return broken('restart interval is incomplete')
      const mark = markerAt(bytes, reader.at)
      if (mark.value !== 0xd0 + (restarts & 7)) return broken('restart marker is missing')
      restarts++
      reader.resumeAt(mark.end)
      means.fill(0)
      run = 0
    }
    // A refinement cannot be told from what it refines, so it is resumed only from its beginning.
    if (reader.at >= nextState && (!refines || unit === 0)) {
      nextState = reader.at + STATE_EVERY
      states.push({ at: reader.at, state: { unit, means: [...means], run, restarts, bits: reader.state() } })
      if (states.length > STATES) states.shift()
    }
    for (const index of blocks) {
      const { dc, ac, component } = parts[index]!
      if (scan.from === 0) {
        if (scan.high > 0) {
          if (reader.bits(1) < 0) return broken('entropy-coded data ends early')
        } else {
          const size = dc ? reader.code(dc) : -1
          if (size < 0 || size > 15) return broken('invalid Huffman code')
          const bits = reader.bits(size)
          if (bits < 0) return broken('entropy-coded data ends early')
          means[index]! += extended(bits, size)
          if (Math.abs((means[index]! << scan.low) * component.step) > meanMost + component.step)
            return broken('DC coefficient out of range')
        }
      }
      if (scan.to === 0) continue
      if (refines) {
        run = ac && seen ? refineBlock(reader, ac, { seen, unit, from: scan.from, to: scan.to, run }) : -1
        if (run < 0) return broken('invalid refinement of a block')
        continue
      }
      if (run > 0) {
        run--
        continue
      }
      for (let at = Math.max(1, scan.from); at <= scan.to; at++) {
        const code = ac ? reader.code(ac) : -1
        if (code < 0) return broken('invalid Huffman code')
        const [zeros, size] = [code >> 4, code & 15]
        if (size === 0) {
          if (zeros === 15) {
            at += 15
            if (at > scan.to) return broken('block has too many coefficients')
            continue
          }
          if (!frame.isProgressive && zeros > 0) return broken('invalid Huffman code')
          if (zeros > 0) {
            const more = reader.bits(zeros)
            if (more < 0) return broken('entropy-coded data ends early')
            run = (1 << zeros) + more - 1
          }
          break
        }
        at += zeros
        if (at > scan.to) return broken('block has too many coefficients')
        if (seen) seen[unit * 2 + (at >> 5)]! |= 1 << (at & 31)
        if (reader.bits(size) < 0) return broken('entropy-coded data ends early')
      }
    }
  }
  if (run > 0 || !reader.isAtEnd()) return broken('more entropy-coded data than the frame size needs')
  const end = markerAt(bytes, reader.at)
  return end.value < 0 ? broken('marker after the scan is missing') : { at: end.at, fault: null, states }
}

function forget(seen: Seen, fromUnit: number, { from, to }: Scan): void {
  const keep = [0, 0]
  for (let at = 0; at < 64; at++) if (at < from || at > to) keep[at >> 5]! |= 1 << (at & 31)
  for (let at = fromUnit * 2; at < seen.length; at++) seen[at]! &= keep[at & 1]!
}

/**
 * One block of a refinement scan: one more bit for each coefficient that is not zero, and coefficients that become so
 * (ISO/IEC 10918-1, G.1.2.3). Returns how many blocks without new coefficients follow (EOBRUN), or -1 where it is
 * invalid.
 */
function refineBlock(
  reader: BitReader,
  ac: CodeTable,
  { seen, unit, from, to, run }: { seen: Seen; unit: number; from: number; to: number; run: number },
): number {
  const isSeen = (at: number) => (seen[unit * 2 + (at >> 5)]! >>> (at & 31)) & 1
  let left = run
  let at = from
  for (; left === 0 && at <= to; at++) {
    const code = reader.code(ac)
    if (code < 0) return -1
    let zeros = code >> 4
    const size = code & 15
    if (size === 0 && zeros < 15) {
      const more = reader.bits(zeros)
      if (more < 0) return -1
      left = (1 << zeros) + more
      break
    }
    if (size > 1 || (size === 1 && reader.bits(1) < 0)) return -1
    for (; at <= to; at++) {
      if (isSeen(at)) {
        if (reader.bits(1) < 0) return -1
      } else if (zeros-- === 0) break
    }
    if (size === 0) continue
    if (at > to) return -1
    seen[unit * 2 + (at >> 5)]! |= 1 << (at & 31)
  }
  if (left === 0) return 0
  for (; at <= to; at++) if (isSeen(at) && reader.bits(1) < 0) return -1
  return left - 1
}

function markerAt(bytes: Uint8Array, at: number): { value: number; at: number; end: number } {
  let next = at
  if (bytes[next] !== 0xff) return { value: -1, at, end: at }
  while (bytes[next + 1] === 0xff) next++
  return { value: bytes[next + 1] ?? -1, at: next, end: next + 2 }
}
