import QuickLRU from 'quick-lru'

/** The codes of a Huffman table by the next 16 bits; the longer ones come behind all others. */
export interface Codes {
  /** by the first bits alone */
  readonly short: Uint16Array
  /** the first 16 bits that begin a code longer than those */
  readonly from: number
  readonly long: Uint16Array
}

/** A Huffman table prepared for decoding. */
export interface CodeTable {
  readonly one: Codes
  /**
   * The AC codes of a sequential picture that begin in the next bits, taken together: how many bits they take
   * (0 to 7), how many coefficients they pass (8 to 15), and whether the block ends with them (bit 16). 0 where no code fits.
   * `ahead`: how many bits are looked up
   */
  several(ahead: number): Int32Array
}

const SHORT_BITS = 10

/**
 * What the next 16 bits begin with: how many bits the code and its value take together (bits 0 to 5), how many the value alone
 * (8 to 11), and the run before it (12 to 15); 0 where no code begins so.
 */
export const entryOf = ({ short, from, long }: Codes, next: number) =>
  next < from ? short[next >> (16 - SHORT_BITS)]! : long[next - from]!

export const bitsOf = (entry: number) => entry & 63
export const sizeOf = (entry: number) => (entry >> 8) & 15
export const zerosOf = (entry: number) => (entry >> 12) & 15

export const ENDS_BLOCK = 1 << 16

/** Cameras use the same tables in each picture. */
const kept = new QuickLRU<string, CodeTable>({ maxSize: 100 })

/** Prepares a table (ISO/IEC 10918-1, C.2) from the number of codes of each length and their values; null where it is invalid. */
export function codeTable(counts: Uint8Array, values: Uint8Array): CodeTable | null {
  const name = String.fromCharCode(...counts, ...values)
  const known = kept.get(name)
  if (known) return known
  const short = new Uint16Array(1 << SHORT_BITS)
  let long = new Uint16Array(0)
  let [code, at, from] = [0, 0, 65_536]
  for (let length = 1; length <= 16; length++) {
    if (length === SHORT_BITS + 1) {
      from = Math.min(code, 1 << length) << (16 - length)
      long = new Uint16Array(65_536 - from)
    }
    for (let index = 0; index < counts[length - 1]!; index++, code++, at++) {
      if (code >= 1 << length) return null
      const [zeros, size] = [values[at]! >> 4, values[at]! & 15]
      const entry = (zeros << 12) | (size << 8) | (length + size)
      if (length <= SHORT_BITS) short.fill(entry, code << (SHORT_BITS - length), (code + 1) << (SHORT_BITS - length))
      else long.fill(entry, (code << (16 - length)) - from, ((code + 1) << (16 - length)) - from)
    }
    code <<= 1
  }
  const one: Codes = { short, from, long }
  const built = new Map<number, Int32Array>()
  const several = (ahead: number) => {
    const told = built.get(ahead) ?? severalOf(one, ahead)
    built.set(ahead, told)
    return told
  }
  const table = { one, several }
  kept.set(name, table)
  return table
}

/** The longest AC value of a picture of eight bits (F.1.2.2); longer ones are looked up one by one. */
const MAX_SIZE = 10

/** Built from the entries for fewer bits: behind its first code, an entry is that for the bits that are left. */
function severalOf(one: Codes, ahead: number): Int32Array {
  // Those for so many bits begin at two to the power of that.
  const all = new Int32Array(2 << ahead)
  for (let bits = 1; bits <= ahead; bits++)
    for (let next = 0; next < 1 << bits; next++) {
      const entry = entryOf(one, next << (16 - bits))
      const [taken, size, zeros] = [bitsOf(entry), sizeOf(entry), zerosOf(entry)]
      // Only a code that is here with all of its bits is certain; those of its value do not matter.
      if (entry === 0 || taken - size > bits || size > MAX_SIZE) continue
      const isEnd = size === 0 && zeros < 15
      if (isEnd && zeros > 0) continue
      if (isEnd) all[(1 << bits) | next] = ENDS_BLOCK | taken
      else {
        const left = bits - taken
        const rest = left > 0 ? all[(1 << left) | (next & ((1 << left) - 1))]! : 0
        const own = ((zeros + 1) << 8) | taken
        all[(1 << bits) | next] = ((rest >> 8) & 255) + zeros + 1 < 64 ? own + rest : own
      }
    }
  return all.subarray(1 << ahead)
}

/** A number of this many bits, of which the lower half of the range is negative (F.2.2.1, EXTEND). */
export const extended = (bits: number, size: number) => (bits < 1 << (size - 1) ? bits - (1 << size) + 1 : bits)
