import rangeParser from 'range-parser'

/** A part of some content: its first and last byte. */
export interface ByteRange {
  readonly from: number
  readonly to: number
}

/**
 * The one range that a request asks for (RFC 9110, section 14.1.2), of content of so many bytes; null where it asks for all, for
 * several, or for what is none; `beyond` where nothing of it is there.
 */
export function byteRangeOf(header: string | undefined, bytes: number): ByteRange | 'beyond' | null {
  const ranges = header === undefined ? NONE : rangeParser(bytes, header)
  if (ranges === BEYOND) return 'beyond'
  if (typeof ranges === 'number' || ranges.type !== 'bytes') return null
  const [only, ...more] = ranges
  return only && more.length === 0 ? { from: only.start, to: only.end } : null
}

/** What the parser says of a range that lies behind the end, and of what is no range. */
const [BEYOND, NONE] = [-1, -2]

/** The first so many bytes of what comes in parts. */
export async function* firstOf(parts: AsyncIterable<Uint8Array>, bytes: number): AsyncIterable<Uint8Array> {
  let left = bytes
  for await (const part of parts) {
    yield part.length > left ? part.subarray(0, left) : part
    left -= part.length
    if (left <= 0) return
  }
}
