import type { ByteSource } from './source'

const WINDOW_BYTES = 64 * 1024

/**
 * Reads numbers and text from a source by offset. Small reads come from a window, so that walking a structure costs few
 * reads. Everything beyond the end reads as zero: check `has` first.
 */
export class Reader {
  private window: Uint8Array = new Uint8Array(0)
  private view: DataView = new DataView(new ArrayBuffer(0))
  private from = 0

  /**
   * `unitBytes`: the medium's allocation unit, so that no smaller part of a file can belong to another; `windowBytes`:
   * how much is read at a time, at least the longest small read
   */
  constructor(
    readonly source: ByteSource,
    readonly unitBytes = 512,
    private readonly windowBytes = WINDOW_BYTES,
  ) {}

  get size(): number {
    return this.source.size
  }

  /** whether this many bytes from there on are inside the source */
  has(at: number, length: number): boolean {
    return at >= 0 && at + length <= this.source.size
  }

  u8(at: number): number {
    return this.reach(at, 1) ? this.window[at - this.from]! : 0
  }
  u16le(at: number): number {
    return this.reach(at, 2) ? this.view.getUint16(at - this.from, true) : 0
  }
  u16be(at: number): number {
    return this.reach(at, 2) ? this.view.getUint16(at - this.from) : 0
  }
  u32le(at: number): number {
    return this.reach(at, 4) ? this.view.getUint32(at - this.from, true) : 0
  }
  u32be(at: number): number {
    return this.reach(at, 4) ? this.view.getUint32(at - this.from) : 0
  }
  /** a 64-bit number; Infinity beyond the safe integers (2^53) */
  u64le(at: number): number {
    return wide(this.u32le(at + 4), this.u32le(at))
  }
  u64be(at: number): number {
    return wide(this.u32be(at), this.u32be(at + 4))
  }
  /** one character per byte */
  text(at: number, length: number): string {
    let text = ''
    for (const byte of this.bytes(at, length)) text += String.fromCharCode(byte)
    return text
  }
  /** the bytes from there on; fewer where the source ends */
  bytes(at: number, length: number): Uint8Array {
    if (length > this.windowBytes) return this.source.read(at, length)
    const part = Math.min(length, this.source.size - at)
    if (part <= 0 || !this.reach(at, part)) return new Uint8Array(0)
    return this.window.subarray(at - this.from, at - this.from + part)
  }
  is(at: number, text: string): boolean {
    if (!this.has(at, text.length)) return false
    for (let i = 0; i < text.length; i++) if (this.u8(at + i) !== text.charCodeAt(i)) return false
    return true
  }

  private reach(at: number, length: number): boolean {
    if (at < 0 || at + length > this.source.size) return false
    if (at < this.from || at + length > this.from + this.window.length) {
      this.from = at
      this.window = this.source.read(at, this.windowBytes)
      this.view = new DataView(this.window.buffer, this.window.byteOffset, this.window.length)
    }
    return at + length <= this.from + this.window.length
  }
}

function wide(high: number, low: number): number {
  return high > 0x1fffff ? Infinity : high * 2 ** 32 + low
}
