import type { Reader } from '../../sources/reader'

/** Boxes that contain others (ISO/IEC 14496-12, 6.2.2), as far as they lead to the samples. */
const HOLDERS = new Set(['trak', 'mdia', 'minf', 'stbl', 'edts'])
const MAX_DEPTH = 6

/** A range of the source: the content of a box. */
export interface BoxContent {
  readonly at: number
  readonly end: number
}

/**
 * The length of a box with its header, and of the header alone: size `0` means up to the end, `1` a 64-bit size after
 * the type.
 */
export function boxLength(reader: Reader, at: number): { length: number; head: number } {
  const length = reader.u32be(at)
  if (length === 1) return { length: reader.u64be(at + 8), head: 16 }
  return { length: length === 0 ? reader.size - at : length, head: 8 }
}

/** Every box of a type within a range, at any depth of containers. */
export function* boxesWithin(
  reader: Reader,
  from: number,
  end: number,
  wanted: string,
  depth = 0,
): Iterable<BoxContent> {
  for (let at = from; at + 8 <= end;) {
    const { length, head } = boxLength(reader, at)
    if (length < head || at + length > end) return
    const type = reader.text(at + 4, 4)
    if (type === wanted) yield { at: at + head, end: at + length }
    else if (HOLDERS.has(type) && depth < MAX_DEPTH)
      yield* boxesWithin(reader, at + head, at + length, wanted, depth + 1)
    at += length
  }
}
