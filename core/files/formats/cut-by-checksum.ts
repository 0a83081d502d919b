import { crc32, crc32Of } from '../../sources/checksums'
import type { Reader } from '../../sources/reader'

/** A stretch with a CRC-32, of which the part behind a cut lies `gap` bytes further on. Offsets in bytes of the source. */
export interface CutStretch {
  readonly from: number
  readonly end: number
  readonly gap: number
  readonly sum: number
}

/**
 * The cuts, at multiples of the unit, with which a stretch has its checksum: latest first. Each byte is read once on either side
 * of the gap, since the sum of two stretches follows from the sums of both.
 */
export function cutsByChecksum(reader: Reader, { from, end, gap, sum }: CutStretch): number[] {
  const { unitBytes, source } = reader
  const first = Math.floor(from / unitBytes + 1) * unitBytes
  const last = Math.floor((end - 1) / unitBytes) * unitBytes
  if (first > last) return []
  const before: number[] = []
  let [own, at] = [0, from]
  for (let cut = first; cut <= last; cut += unitBytes) {
    own = crc32(source.read(at, cut - at), own)
    before.push(own)
    at = cut
  }
  const cuts: number[] = []
  let [behind, next] = [0, end]
  for (let index = before.length - 1; index >= 0; index--) {
    const cut = first + index * unitBytes
    behind = crc32Of(crc32(source.read(cut + gap, next - cut)), behind, end - next)
    next = cut
    if (crc32Of(before[index]!, behind, end - cut) === sum) cuts.push(cut)
  }
  return cuts
}
