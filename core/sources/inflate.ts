import { Inflate } from 'pako'
import { adler32, crc32 } from './checksums'

export interface Inflated {
  /** bytes unpacked */
  readonly bytes: number
  /** bytes read, to the end of the data */
  readonly used: number
  readonly crc: number
  readonly adler: number
}

/** Bytes handed over at a time, so that data that unpack to far more than they should are abandoned early. */
const STEP_BYTES = 64 * 1024

/**
 * Unpacks DEFLATE data (RFC 1951) to prove them: the output goes to `keep`, or nowhere. Null where they are invalid or
 * truncated, or unpack to more than `most` bytes.
 */
export function inflated(packed: Uint8Array, most: number, keep?: (part: Uint8Array) => void): Inflated | null {
  const inflate = new Inflate({ raw: true, chunkSize: STEP_BYTES })
  let [bytes, crc, adler, ends] = [0, 0, 1, false]
  inflate.onData = (part) => {
    const out = part as Uint8Array
    keep?.(out)
    bytes += out.length
    crc = crc32(out, crc)
    adler = adler32(out, adler)
  }
  inflate.onEnd = (status) => {
    ends = status === 0
  }
  let used = 0
  for (let at = 0; at < packed.length && bytes <= most; at += STEP_BYTES) {
    const part = packed.subarray(at, at + STEP_BYTES)
    const goesOn = inflate.push(part, false)
    used += part.length - leftOf(inflate)
    if (ends) return bytes <= most ? { bytes, used, crc, adler } : null
    if (!goesOn || inflate.err !== 0) return null
  }
  return null
}

/** The same with the header and checksum of a zlib stream (RFC 1950, section 2.2); null where either is wrong. */
export function inflatedStream(packed: Uint8Array, most: number, keep?: (part: Uint8Array) => void): Inflated | null {
  if (packed.length < 6 || (packed[0]! & 15) !== 8 || (packed[0]! * 256 + packed[1]!) % 31 !== 0 || packed[1]! & 0x20)
    return null
  const out = inflated(packed.subarray(2), most, keep)
  if (!out || out.used + 6 > packed.length) return null
  const told = new DataView(packed.buffer, packed.byteOffset + 2 + out.used, 4).getUint32(0)
  return told === out.adler ? { ...out, used: out.used + 6 } : null
}

/** The content of a zlib stream; null where it is invalid, its checksum is wrong, or it is more than `most` bytes. */
export function unpackedStream(packed: Uint8Array, most: number): Uint8Array | null {
  const parts: Uint8Array[] = []
  const told = inflatedStream(packed, most, (part) => parts.push(part))
  if (!told) return null
  const bytes = new Uint8Array(told.bytes)
  let at = 0
  for (const part of parts) {
    bytes.set(part, at)
    at += part.length
  }
  return bytes
}

/** The count of unread input says where the data ended; the package's types leave it out. */
const leftOf = (inflate: Inflate) => (inflate as unknown as { strm: { avail_in: number } }).strm.avail_in
