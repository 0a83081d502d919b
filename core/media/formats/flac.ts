import { crc16Forward, crc8Forward } from '../checksums'
import type { Reader } from '../reader'
import type { Extent } from '../source'
import { intactBut, partial, type Format } from './format'

const KIND = { mime: 'audio/flac', extension: 'flac', type: 'audio' } as const
const MOST_FRAME = 1 << 20

/** FLAC: each frame has a checksum; a frame ends where the sum fits and the next begins (RFC 9639, 8 and 9). */
export const flac: Format = {
  id: 'flac',
  extensions: ['flac'],
  signatures: [[0, 'fLaC']],
  walk(reader, from) {
    if (!reader.is(0, 'fLaC') || (reader.u8(4) & 0x7f) !== 0 || reader.u32be(4) % 2 ** 24 !== 34) return null
    let at = 4
    const unproven: Extent[] = []
    for (let isLast = false; !isLast;) {
      if (!reader.has(at, 4)) return partial(KIND, { provenTo: 4, breaksAt: reader.size, why: 'it is cut off' })
      isLast = (reader.u8(at) & 0x80) !== 0
      const length = reader.u32be(at) % 2 ** 24
      if (at > 4 && !isPadding(reader, at, length)) unproven.push([at + 4, length])
      at += 4 + length
    }
    const total = (reader.u8(21) & 15) * 2 ** 32 + reader.u32be(22)
    let samples = (from?.state as number | undefined) ?? 0
    at = from?.at ?? at
    const first = at
    const starts = [{ at, state: samples }]
    while (true) {
      const head = headerAt(reader, at)
      if (!head) {
        if (total > 0 && samples === total)
          return intactBut(
            KIND,
            at,
            unproven,
            reader.unitBytes,
            'the checksum of every frame is right, and all samples are there',
          )
        if (at === first && !from) return null
        return partial(KIND, { provenTo: at, breaksAt: at, why: 'a frame is not there', resume: starts })
      }
      const end = frameEnd(reader, at, head.bytes, samples + head.samples === total)
      if (end < 0)
        return partial(KIND, {
          provenTo: at,
          breaksAt: Math.min(reader.size, at + 16_384),
          why: 'the checksum of a frame is wrong',
          resume: starts,
        })
      samples += head.samples
      at = end
      if (starts.push({ at, state: samples }) > 8) starts.shift()
    }
  },
}

/** Whether a block of the head is of the kind that holds nothing but zeros, and does. */
function isPadding(reader: Reader, at: number, length: number): boolean {
  if ((reader.u8(at) & 0x7f) !== 1) return false
  for (let done = 0; done < length; done += 4096)
    if (reader.bytes(at + 4 + done, Math.min(4096, length - done)).some((byte) => byte !== 0)) return false
  return true
}

/** The head of a frame with its own checksum; null where there is none. */
function headerAt(reader: Reader, at: number): { bytes: number; samples: number } | null {
  if (!reader.has(at, 6) || reader.u8(at) !== 0xff || (reader.u8(at + 1) & 0xfe) !== 0xf8) return null
  const block = reader.u8(at + 2) >> 4
  const rate = reader.u8(at + 2) & 15
  if (block === 0 || rate === 15) return null
  let bytes = 4
  let lead = reader.u8(at + 4)
  for (bytes++; (lead & 0xc0) === 0xc0 || (lead & 0x80 && bytes === 5); lead = (lead << 1) & 0xff) {
    if ((lead & 0x40) === 0) break
    bytes++
    if (bytes > 12) return null
  }
  let samples = block === 1 ? 192 : block <= 5 ? 576 * 2 ** (block - 2) : block >= 8 ? 256 * 2 ** (block - 8) : 0
  if (block === 6) samples = reader.u8(at + bytes) + 1
  if (block === 7) samples = reader.u16be(at + bytes) + 1
  bytes += block === 6 ? 1 : block === 7 ? 2 : 0
  bytes += rate === 12 ? 1 : rate >= 13 ? 2 : 0
  return crc8Forward(reader.bytes(at, bytes)) === reader.u8(at + bytes) ? { bytes: bytes + 1, samples } : null
}

/** where the next frame begins, or the last one ends by its checksum alone; -1 where nothing fits */
function frameEnd(reader: Reader, at: number, headBytes: number, isLast: boolean): number {
  let sum = crc16Forward(reader.bytes(at, headBytes))
  const most = Math.min(reader.size - 2, at + MOST_FRAME)
  let ends = -1
  for (let end = at + headBytes; end <= most; end++) {
    if (sum === reader.u16be(end)) {
      const isNext = reader.u8(end + 2) === 0xff && headerAt(reader, end + 2) !== null
      if (isNext) return end + 2
      if (isLast && ends < 0 && end > at + headBytes + 4) ends = end + 2
    }
    sum = crc16Forward(reader.bytes(end, 1), sum)
    if (ends > 0 && end > ends + 65_536) break
  }
  return ends
}
