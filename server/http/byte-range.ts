/** A part of some content: its first and last byte. */
export interface ByteRange {
  readonly from: number
  readonly to: number
}

/**
 * The one range that a request asks for (RFC 9110, section 14.1.2), of content of so many bytes; null where it asks for all, or for
 * several; `beyond` where nothing of it is there.
 */
export function byteRangeOf(header: string | undefined, bytes: number): ByteRange | 'beyond' | null {
  const [, first, last] = /^bytes=(\d{0,15})-(\d{0,15})$/.exec(header ?? '') ?? []
  if (first === undefined || last === undefined || (first === '' && last === '')) return null
  const from = first === '' ? Math.max(0, bytes - Number(last)) : Number(first)
  const to = first === '' || last === '' ? bytes - 1 : Math.min(bytes - 1, Number(last))
  if (first !== '' && last !== '' && Number(last) < Number(first)) return null
  return from > to ? 'beyond' : { from, to }
}

/** The first so many bytes of what comes in parts. */
export async function* firstOf(parts: AsyncIterable<Uint8Array>, bytes: number): AsyncIterable<Uint8Array> {
  let left = bytes
  for await (const part of parts) {
    yield part.length > left ? part.subarray(0, left) : part
    left -= part.length
    if (left <= 0) return
  }
}
