/** Bytes that are read and never written: a file, a disk, an image, an upload. */
export interface ByteSource {
  /** number of bytes */
  readonly size: number
  /** the bytes from `offset` on; fewer than asked where the source ends */
  read(offset: number, length: number): Uint8Array
  /** the same into an existing buffer, for long scans; returns how many bytes were read */
  readInto?(bytes: Uint8Array, offset: number): number
}

/** A range of bytes of a source: offset and length. */
export type Extent = readonly [offset: number, length: number]

/** A source over bytes in memory. */
export function bytesSource(bytes: Uint8Array): ByteSource {
  return { size: bytes.length, read: (offset, length) => bytes.subarray(offset, offset + length) }
}

/** A range of a source as a source of its own, cut at the end of the source. */
export function sliceSource(source: ByteSource, from: number, length = source.size - from): ByteSource {
  const size = Math.max(0, Math.min(length, source.size - from))
  return { size, read: (offset, count) => source.read(from + offset, Math.max(0, Math.min(count, size - offset))) }
}

/** The offset of a range that was never written (a hole of a sparse file) and reads as zeros. */
export const HOLE = -1

/**
 * Several extents of a source, one after the other, as one source: a fragmented file. Its size is always their sum. An
 * extent with offset `HOLE`, and what is beyond the end of the source, reads as zeros.
 */
export function piecesSource(source: ByteSource, extents: readonly Extent[]): ByteSource {
  const starts: number[] = []
  let size = 0
  for (const [, length] of extents) {
    starts.push(size)
    size += length
  }
  const [first] = extents
  if (extents.length === 1 && first![0] !== HOLE && first![0] + size <= source.size)
    return sliceSource(source, first![0], size)
  return {
    size,
    read: (offset, count) => {
      const end = Math.min(size, offset + count)
      if (end <= offset) return new Uint8Array(0)
      let at = pieceAt(starts, offset)
      const [begin, length] = extents[at]!
      const within = offset - starts[at]!
      if (begin !== HOLE && within + (end - offset) <= length && begin + length <= source.size)
        return source.read(begin + within, end - offset)
      const bytes = new Uint8Array(end - offset)
      for (let done = offset; done < end; at++) {
        const [from, long] = extents[at]!
        const skip = done - starts[at]!
        const part = Math.min(long - skip, end - done)
        if (from !== HOLE) bytes.set(source.read(from + skip, part), done - offset)
        done += part
      }
      return bytes
    },
  }
}

/** the last of the extents that begin at or before the offset */
function pieceAt(starts: readonly number[], offset: number): number {
  let low = 0
  let high = starts.length - 1
  while (low < high) {
    const middle = (low + high + 1) >> 1
    if (starts[middle]! <= offset) low = middle
    else high = middle - 1
  }
  return low
}

const NEAR_BYTES = 64 * 1024
const AHEAD_BYTES = 512 * 1024

/**
 * Wraps a source that is read in many small ranges, mostly in ascending order: after consecutive reads it reads ahead.
 * Its buffers must not be changed.
 */
export function aheadSource(source: ByteSource): ByteSource {
  let [from, end] = [0, 0]
  let ahead: Uint8Array = new Uint8Array(0)
  return {
    size: source.size,
    read: (offset, length) => {
      const isNext = offset >= end && offset - end < NEAR_BYTES && length <= NEAR_BYTES
      end = offset + length
      if (offset >= from && end <= from + ahead.length) return ahead.subarray(offset - from, end - from)
      if (!isNext) return source.read(offset, length)
      ahead = source.read(offset, AHEAD_BYTES)
      from = offset
      return ahead.subarray(0, length)
    },
  }
}
