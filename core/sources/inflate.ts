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

/** Unpacks DEFLATE data (RFC 1951) part by part; the output goes to `keep`, or nowhere. */
export class Unpacking {
  private inflate = new Inflate({ raw: true, chunkSize: STEP_BYTES })
  private told = { bytes: 0, used: 0, crc: 0, adler: 1 }
  /** `ended`: the data came to their end; `broken`: they are invalid, or unpack to more than `most` bytes */
  state: 'open' | 'ended' | 'broken' = 'open'

  constructor(
    private readonly most: number,
    private readonly keep?: (part: Uint8Array) => void,
  ) {
    this.listen()
  }

  /** What was unpacked so far. */
  get so(): Inflated {
    return { ...this.told }
  }

  /** Takes the next part; returns whether it goes on behind it. */
  push(part: Uint8Array): boolean {
    if (this.state !== 'open') return false
    const goesOn = this.inflate.push(part, false)
    this.told.used += part.length - innerOf(this.inflate).avail_in
    if (this.told.bytes > this.most) this.state = 'broken'
    else if (innerOf(this.inflate).state === null && this.inflate.err === 0) this.state = 'ended'
    else if (!goesOn || this.inflate.err !== 0) this.state = 'broken'
    return this.state === 'open'
  }

  /** Another that goes on from here with other data. */
  copy(): Unpacking {
    const copy = new Unpacking(this.most, this.keep)
    const inner = innerOf(this.inflate)
    // What was handed over is used up; it would be copied too.
    inner.input = null
    Object.assign(copy.inflate, { strm: structuredClone(inner) })
    copy.told = { ...this.told }
    copy.state = this.state
    return copy
  }

  private listen(): void {
    const { inflate } = this
    inflate.onData = (part) => {
      const out = part as Uint8Array
      this.keep?.(out)
      this.told.bytes += out.length
      this.told.crc = crc32(out, this.told.crc)
      this.told.adler = adler32(out, this.told.adler)
    }
  }
}

/**
 * Unpacks DEFLATE data (RFC 1951) to prove them: the output goes to `keep`, or nowhere. Null where they are invalid or
 * truncated, or unpack to more than `most` bytes.
 */
export function inflated(packed: Uint8Array, most: number, keep?: (part: Uint8Array) => void): Inflated | null {
  const unpacking = new Unpacking(most, keep)
  let at = 0
  while (at < packed.length && unpacking.push(packed.subarray(at, at + STEP_BYTES))) at += STEP_BYTES
  return unpacking.state === 'ended' ? unpacking.so : null
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
const innerOf = (inflate: Inflate) =>
  (inflate as unknown as { strm: { avail_in: number; input: Uint8Array | null; state: object | null } }).strm
