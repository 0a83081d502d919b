/**
 * A Huffman table prepared for decoding: up to eight bits are looked up at once, longer codes by the first code of each
 * length.
 */
export interface CodeTable {
  /** by the next eight bits: code length times 256, plus the value; 0 where the code is longer */
  readonly short: Uint16Array
  readonly firstOf: Int32Array
  readonly lastOf: Int32Array
  readonly valueAt: Int32Array
  readonly values: Uint8Array
}

/** Prepares a table (ISO/IEC 10918-1, C.2); null where it is invalid. */
export function codeTable(counts: Uint8Array, values: Uint8Array): CodeTable | null {
  const table = {
    short: new Uint16Array(256),
    firstOf: new Int32Array(17),
    lastOf: new Int32Array(17).fill(-1),
    valueAt: new Int32Array(17),
    values,
  }
  let [code, at] = [0, 0]
  for (let length = 1; length <= 16; length++) {
    table.firstOf[length] = code
    table.valueAt[length] = at
    for (let index = 0; index < counts[length - 1]!; index++, code++, at++) {
      if (code >= 1 << length) return null
      if (length <= 8)
        for (let fill = 0; fill < 1 << (8 - length); fill++)
          table.short[(code << (8 - length)) | fill] = (length << 8) | values[at]!
    }
    table.lastOf[length] = code - 1
    code <<= 1
  }
  return table
}

/** Reads bits of entropy-coded data and removes byte stuffing. */
export class BitReader {
  private buffer = 0
  private count = 0
  /** offset of the marker that ended the data; -1 before that */
  marker = -1

  constructor(
    private readonly bytes: Uint8Array,
    public at: number,
  ) {}

  /** the next byte of data, or -1 at a marker or at the end */
  private next(): number {
    if (this.marker >= 0 || this.at >= this.bytes.length) return -1
    const byte = this.bytes[this.at]!
    if (byte !== 0xff) {
      this.at++
      return byte
    }
    let after = this.at + 1
    while (this.bytes[after] === 0xff) after++
    if (this.bytes[after] === 0) {
      this.at = after + 1
      return 0xff
    }
    this.marker = this.at
    return -1
  }

  /** Fills up to `need` bits; false where the data ends before. */
  private fill(need: number): boolean {
    while (this.count < need) {
      const byte = this.next()
      if (byte < 0) return false
      this.buffer = ((this.buffer << 8) | byte) & 0x3ffffff
      this.count += 8
    }
    return true
  }

  /** this many bits as a number; -1 where the data ends before */
  bits(need: number): number {
    if (need === 0) return 0
    if (!this.fill(need)) return -1
    this.count -= need
    return (this.buffer >>> this.count) & ((1 << need) - 1)
  }

  /** the value of the next code; -1 where the code is invalid or the data ends */
  code(table: CodeTable): number {
    if (this.fill(8)) {
      const hit = table.short[(this.buffer >>> (this.count - 8)) & 0xff]!
      if (hit !== 0) {
        this.count -= hit >> 8
        return hit & 0xff
      }
    }
    let code = 0
    for (let length = 1; length <= 16; length++) {
      const bit = this.bits(1)
      if (bit < 0) return -1
      code = (code << 1) | bit
      if (code <= table.lastOf[length]! && code >= table.firstOf[length]!) {
        const at = table.valueAt[length]! + code - table.firstOf[length]!
        return at < table.values.length ? table.values[at]! : -1
      }
    }
    return -1
  }

  /** At the end of a scan or restart interval: whether only the padding of the last byte is left. */
  isAtEnd(): boolean {
    if (this.count >= 8) return false
    const isFilled = this.count === 0 || (this.buffer & ((1 << this.count) - 1)) === (1 << this.count) - 1
    if (!isFilled) return false
    if (this.marker < 0 && this.next() >= 0) return false
    return true
  }

  /** Continues behind a marker. */
  resumeAt(at: number): void {
    this.at = at
    this.buffer = 0
    this.count = 0
    this.marker = -1
  }

  state() {
    return { at: this.at, buffer: this.buffer, count: this.count, marker: this.marker }
  }
  restore(state: { at: number; buffer: number; count: number; marker: number }): void {
    this.at = state.at
    this.buffer = state.buffer
    this.count = state.count
    this.marker = state.marker
  }
}

/** A number of this many bits, of which the lower half of the range is negative (F.2.2.1, EXTEND). */
export const extended = (bits: number, size: number) =>
  size === 0 ? 0 : bits < 1 << (size - 1) ? bits - (1 << size) + 1 : bits
