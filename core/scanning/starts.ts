import type { Format } from '../files/formats/format'
import { isTextByte, readsAsText, text } from '../files/formats/text'

export const SECTOR_BYTES = 512

/** Finds the sectors of a block at which a known format may begin. */
export class Starts {
  /** by the first two bytes: 1 where some format may begin so, 2 where only text may, 0 where none does */
  private readonly pairs = new Uint8Array(65_536)
  private readonly hasText: boolean
  private readonly byPair = new Map<number, Format[]>()

  constructor(formats: readonly Format[]) {
    this.hasText = formats.includes(text)
    if (this.hasText)
      for (let pair = 0; pair < 65_536; pair++) if (mayBeginText(pair & 255, pair >> 8)) this.pairs[pair] = 2
    for (const format of formats)
      for (const [at, bytes] of format.signatures) {
        // The size of a box comes before its type; no first box is larger than 16 million bytes.
        const pairs =
          at === 0
            ? [bytes.charCodeAt(0) | (bytes.charCodeAt(1) << 8)]
            : Array.from({ length: 256 }, (_, second) => second << 8)
        for (const pair of pairs) {
          this.pairs[pair] = 1
          const own = this.byPair.get(pair) ?? []
          if (!own.includes(format)) this.byPair.set(pair, [...own, format])
        }
      }
  }

  *in(block: Uint8Array, from: number): Iterable<number> {
    const first = Math.ceil(from / SECTOR_BYTES) * SECTOR_BYTES
    const { pairs } = this
    for (let at = first; at + 16 <= block.length; at += SECTOR_BYTES) {
      // This one comparison rejects nearly every sector of noise or zeros.
      const kind = pairs[block[at]! | (block[at + 1]! << 8)]!
      if (kind === 0) continue
      if (
        kind === 1
          ? (block[at] !== 0 || block[at + 4]! >= 0x61) && this.formatsAt(block, at).length > 0
          : isTextStart(block, at)
      )
        yield at
    }
  }

  formatsAt(block: Uint8Array, at: number): Format[] {
    const own = this.byPair.get(block[at]! | (block[at + 1]! << 8)) ?? []
    const found = own.filter(({ signatures }) =>
      signatures.some(([offset, bytes]) => matches(block, at + offset, bytes)),
    )
    if (found.length === 0 && this.hasText && isTextStart(block, at)) found.push(text)
    return found
  }
}

function matches(block: Uint8Array, at: number, bytes: string): boolean {
  for (let index = 0; index < bytes.length; index++) if (block[at + index] !== bytes.charCodeAt(index)) return false
  return true
}

/** 1 for a letter, digit, blank or punctuation, 2 for the first byte of a multi-byte character. */
const IS_PLAIN = Uint8Array.from({ length: 256 }, (_, byte) =>
  isTextByte(byte) && byte < 0x80 ? 1 : byte >= 0xc2 && byte < 0xf5 ? 2 : 0,
)

const mayBeginText = (first: number, second: number) =>
  (IS_PLAIN[first] === 1 && IS_PLAIN[second] === 1) || (IS_PLAIN[first] === 2 && (second & 0xc0) === 0x80)

/** Decided by the first four plain bytes or multi-byte characters, so that noise costs next to nothing. */
function isTextStart(block: Uint8Array, at: number): boolean {
  const first = IS_PLAIN[block[at]!]
  if (first === 2 ? (block[at + 1]! & 0xc0) !== 0x80 : first === 0 || IS_PLAIN[block[at + 1]!] !== 1) return false
  const third = IS_PLAIN[block[at + 2]!]
  if (third === 2 ? (block[at + 3]! & 0xc0) !== 0x80 : third === 0 || IS_PLAIN[block[at + 3]!] === 0)
    if (first === 1 || (block[at + 2]! & 0xc0) !== 0x80) return false
  for (let index = 0; index < 16; index++) if (!isTextByte(block[at + index]!)) return false
  return readsAsText(block.subarray(at, Math.min(block.length, at + 256)))
}
