import type { ByteSource } from '../../../sources/source'

/** How much is read at a time: little at first, since a wrong continuation of a file fails within it. */
const FIRST_BYTES = 16 * 1024
const CHUNK_BYTES = 64 * 1024
/** More than the longest unit of a scan takes: ten blocks of 64 codes of 16 bits, each with a value. */
const SPARE_BYTES = 4096

/**
 * The entropy-coded data between two markers, without byte stuffing (ISO/IEC 10918-1, B.1.1.5). A part of it stands in `bytes`,
 * with room behind it that reads as zeros, so that a unit can be decoded without asking for its end. Bits are counted from
 * the start of `bytes`.
 */
export class EntropyData {
  readonly bytes = new Uint8Array(2 * CHUNK_BYTES + SPARE_BYTES)
  /** how many bits are there */
  bits = 0
  /** the data ends there */
  isLast = false
  /** where the data ended, in bytes of the source: at a marker, or at the end of the source */
  end = -1

  /** offset in the source of the first of `bytes` */
  private from = 0
  private next = 0
  private length = 0
  private chunk = FIRST_BYTES
  /** indexes in `bytes` of those behind which a stuffed zero was left out, ascending */
  private stuffed: number[] = []

  constructor(private readonly source: ByteSource) {}

  /** Begins at an offset of the source, in bytes. */
  begin(at: number): void {
    this.from = at
    this.next = at
    this.length = 0
    this.chunk = FIRST_BYTES
    this.stuffed = []
    this.isLast = false
    this.end = -1
    this.load()
  }

  /** Up to which bit a unit may begin before more has to be loaded; beyond the end, where there is no more. */
  get stop(): number {
    return this.isLast ? this.bits + 1 : this.bits - SPARE_BYTES * 8
  }

  /** Drops what is before a bit, and loads more; returns the same bit's new position. */
  advance(bit: number): number {
    const done = Math.min(bit >> 3, this.length)
    this.from = this.offsetOf(done)
    this.bytes.copyWithin(0, done, this.length)
    this.length -= done
    this.stuffed = this.stuffed.filter((index) => index >= done).map((index) => index - done)
    this.load()
    return bit - done * 8
  }

  /** The offset in the source of one of `bytes`. */
  offsetOf(index: number): number {
    let [low, high] = [0, this.stuffed.length]
    while (low < high) {
      const middle = (low + high) >> 1
      if (this.stuffed[middle]! < index) low = middle + 1
      else high = middle
    }
    return this.from + index + low
  }

  private load(): void {
    const { bytes, source, stuffed } = this
    if (!this.isLast) {
      const asked = this.chunk
      this.chunk = CHUNK_BYTES
      const raw = source.read(this.next, asked)
      let [at, done] = [0, this.length]
      while (true) {
        const mark = raw.indexOf(0xff, at)
        const isMark = mark >= 0 && raw[mark + 1] !== 0
        const end = mark < 0 ? raw.length : isMark ? mark : mark + 1
        for (; at < end; at++) bytes[done++] = raw[at]!
        if (isMark || mark < 0) break
        stuffed.push(done - 1)
        at++
      }
      this.next += at
      this.length = done
      // The last byte read may be the first of two; without any more, it ends the data.
      if (at + 1 < raw.length || raw.length < asked) {
        this.isLast = true
        this.end = this.next
      }
    }
    this.bits = this.length * 8
    bytes.fill(0, this.length, this.length + SPARE_BYTES)
  }
}
