import type { Reader } from '../../sources/reader'

/** Boxes that hold others (ISO/IEC 14496-12, 6.2.2), as far as they lead to the samples. */
const HOLDERS = new Set(['trak', 'mdia', 'minf', 'stbl', 'edts'])
const MAX_DEPTH = 6

/** A stretch of what is read: the content of a box. */
export interface BoxContent {
  readonly at: number
  readonly end: number
}

/** The length of a box with its head, and that of the head: `0` stands for the rest, `1` for a long number behind. */
export function boxLength(reader: Reader, at: number): { length: number; head: number } {
  const length = reader.u32be(at)
  if (length === 1) return { length: reader.u64be(at + 8), head: 16 }
  return { length: length === 0 ? reader.size - at : length, head: 8 }
}

/** Every box of a type within a stretch, however deep in the boxes that hold others. */
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
