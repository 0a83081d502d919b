/** A frame header (RFC 9639, section 9.1). */
export interface FrameHead {
  /** of the header, with its checksum, in bytes */
  readonly bytes: number
  /** of each channel */
  readonly samples: number
  /** the number of the frame, or of its first sample where their lengths change */
  readonly number: number
  readonly channels: number
  /** the channel that holds a difference and has one bit more; -1 where there is none */
  readonly sideChannel: number
  readonly sampleBits: number
}

/** Bits of a frame, most significant first. Beyond the end it reads zeros, and `isOver` is true. */
class Bits {
  private at: number
  constructor(
    private readonly bytes: Uint8Array,
    from: number,
  ) {
    this.at = from * 8
  }

  get isOver(): boolean {
    return this.at > this.bytes.length * 8
  }
  /** the next whole byte */
  get byte(): number {
    return Math.ceil(this.at / 8)
  }
  skip(bits: number): void {
    this.at += bits
  }
  /** up to 24 bits */
  read(bits: number): number {
    const byte = this.at >> 3
    const { bytes } = this
    const four =
      (((bytes[byte] ?? 0) << 24) |
        ((bytes[byte + 1] ?? 0) << 16) |
        ((bytes[byte + 2] ?? 0) << 8) |
        (bytes[byte + 3] ?? 0)) >>>
      0
    const value = (four << (this.at & 7)) >>> (32 - bits)
    this.at += bits
    return bits === 0 ? 0 : value
  }
  /** counts the zeros before the next one bit, and skips that too */
  zeros(): number {
    const { bytes } = this
    let byte = this.at >> 3
    let first = (bytes[byte] ?? 0) & (0xff >> (this.at & 7))
    let count = -(this.at & 7)
    while (first === 0 && byte < bytes.length) {
      count += 8
      first = bytes[++byte] ?? 0
    }
    count += Math.clz32(first) - 24
    this.at += count + 1
    return count
  }
}

/**
 * Where the content of a frame ends, in bytes, behind its padding and before its checksum: the residual code of each
 * channel is followed (RFC 9639, section 9.2). -1 where it is invalid or truncated.
 */
export function contentEnd(bytes: Uint8Array, from: number, head: FrameHead): number {
  const bits = new Bits(bytes, from)
  for (let channel = 0; channel < head.channels; channel++) {
    const isSound = followChannel(bits, head.samples, head.sampleBits + Number(channel === head.sideChannel))
    if (!isSound || bits.isOver) return -1
  }
  return bits.byte
}

function followChannel(bits: Bits, samples: number, sampleBits: number): boolean {
  if (bits.read(1) !== 0) return false
  const kind = bits.read(6)
  const wasted = bits.read(1) ? bits.zeros() + 1 : 0
  const width = sampleBits - wasted
  if (width < 1) return false
  if (kind === 0) bits.skip(width)
  else if (kind === 1) bits.skip(width * samples)
  else if (kind >= 8 && kind <= 12) {
    bits.skip(width * (kind - 8))
    return followResiduals(bits, samples, kind - 8)
  } else if (kind >= 32) {
    const order = kind - 31
    bits.skip(width * order)
    const precision = bits.read(4) + 1
    if (precision === 16) return false
    bits.skip(5 + precision * order)
    return followResiduals(bits, samples, order)
  } else return false
  return true
}

/** Partitions of equal length, each with its own Rice parameter (RFC 9639, section 9.2.7). */
function followResiduals(bits: Bits, samples: number, order: number): boolean {
  const method = bits.read(2)
  if (method > 1) return false
  const parts = 1 << bits.read(4)
  if (samples % parts !== 0 || samples / parts < order) return false
  const [width, escape] = method === 0 ? [4, 15] : [5, 31]
  for (let part = 0; part < parts; part++) {
    const count = samples / parts - (part === 0 ? order : 0)
    const rest = bits.read(width)
    if (rest === escape) bits.skip(bits.read(5) * count)
    else
      for (let index = 0; index < count; index++) {
        bits.zeros()
        bits.skip(rest)
        if (bits.isOver) return false
      }
  }
  return true
}
