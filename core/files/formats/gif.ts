import type { Reader } from '../../sources/reader'
import type { Extent } from '../../sources/source'
import { intactBut, partial, type Format } from './format'

const KIND = { mime: 'image/gif', extension: 'gif', type: 'photos' } as const

/** GIF: blocks up to a trailer; the pixels of each picture are decoded and counted (GIF89a, sections 18 to 27). */
export const gif: Format = {
  id: 'gif',
  extensions: ['gif'],
  isProvable: true,
  signatures: [
    [0, 'GIF87a'],
    [0, 'GIF89a'],
  ],
  walk(reader) {
    if (!reader.is(0, 'GIF87a') && !reader.is(0, 'GIF89a')) return null
    const packed = reader.u8(10)
    let at = 13 + (packed & 0x80 ? 3 * 2 ** ((packed & 7) + 1) : 0)
    let proven = at
    const unproven: Extent[] = []
    const broken = (why: string) => partial(KIND, { provenTo: proven, breaksAt: Math.min(at, reader.size), why })
    while (reader.has(at, 1)) {
      const mark = reader.u8(at)
      if (mark === 0x3b)
        return intactBut(
          KIND,
          at + 1,
          unproven,
          reader.unitBytes,
          'every image decompresses to the expected number of pixels, up to the trailer',
        )
      if (mark === 0x21) {
        const from = at
        at = afterBlocks(reader, at + 2)
        unproven.push([from, at - from])
      } else if (mark === 0x2c) {
        const local = reader.u8(at + 9)
        const pixels = reader.u16le(at + 5) * reader.u16le(at + 7)
        const from = at + 10 + (local & 0x80 ? 3 * 2 ** ((local & 7) + 1) : 0)
        const end = afterBlocks(reader, from + 1)
        const fault = end < 0 ? 'block is truncated' : unpackFault(reader, from, pixels)
        at = end < 0 ? reader.size : end
        if (fault) return broken(fault)
        proven = end
      } else return broken('invalid block')
      if (at < 0) {
        at = reader.size
        return broken('block is truncated')
      }
    }
    return broken('trailer is missing')
  },
}

/** the offset behind a chain of sub-blocks; -1 where they run out of the source */
function afterBlocks(reader: Reader, at: number): number {
  while (reader.has(at, 1)) {
    const length = reader.u8(at)
    at += 1 + length
    if (length === 0) return at
  }
  return -1
}

/** Decodes a picture (variable-length LZW) only to count its pixels; returns what is wrong. */
function unpackFault(reader: Reader, from: number, pixels: number): string | null {
  const least = reader.u8(from)
  if (least < 2 || least > 8) return 'invalid LZW code size'
  const clear = 1 << least
  const lengths = new Uint32Array(4096)
  let [size, next, last, count, isEnded] = [least + 1, clear + 2, -1, 0, false]
  let [buffer, bits] = [0, 0]
  let at = from + 1
  for (let block = reader.u8(at); block > 0; block = reader.u8(at)) {
    for (let byte = 1; byte <= block; byte++) {
      buffer |= reader.u8(at + byte) << bits
      bits += 8
      while (bits >= size) {
        const code = buffer & ((1 << size) - 1)
        buffer >>>= size
        bits -= size
        if (isEnded) return 'LZW codes after the end of an image'
        if (code === clear + 1) isEnded = true
        else if (code === clear) [size, next, last] = [least + 1, clear + 2, -1]
        else {
          if (code > next || (last < 0 && code >= clear)) return 'invalid LZW code'
          const length = code < clear ? 1 : code === next ? lengths[last]! + 1 : lengths[code]!
          if (last >= 0 && next < 4096) {
            lengths[next] = (last < clear ? 1 : lengths[last]!) + 1
            next++
            if (next === 1 << size && size < 12) size++
          }
          if (code < clear) lengths[code] = 1
          count += length
          if (count > pixels) return 'image has too many pixels'
          last = code
        }
      }
    }
    at += 1 + block
  }
  return count === pixels ? null : 'image has too few pixels'
}
