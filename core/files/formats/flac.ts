import { crc16Forward, crc8Forward } from '../../sources/checksums'
import type { Reader } from '../../sources/reader'
import type { Extent } from '../../sources/source'
import { contentEnd, type FrameHead } from './flac-frame'
import { intactBut, partial, type Format } from './format'

const KIND = { mime: 'audio/flac', extension: 'flac', type: 'audio' } as const
const FIRST_WINDOW = 64 * 1024
const MAX_FRAME = 4 * 1024 * 1024

/**
 * FLAC: each frame is followed to its end, where its checksum must be right, and must have the next number (RFC 9639,
 * sections 8 and 9).
 */
export const flac: Format = {
  id: 'flac',
  extensions: ['flac'],
  signatures: [[0, 'fLaC']],
  isProvable: true,
  walk(reader, from) {
    if (!reader.is(0, 'fLaC') || (reader.u8(4) & 0x7f) !== 0 || reader.u32be(4) % 2 ** 24 !== 34) return null
    let at = 4
    const unproven: Extent[] = []
    for (let isLast = false; !isLast;) {
      if (!reader.has(at, 4)) return partial(KIND, { provenTo: 4, breaksAt: reader.size, why: 'file is truncated' })
      isLast = (reader.u8(at) & 0x80) !== 0
      const length = reader.u32be(at) % 2 ** 24
      if (at > 4 && !isPadding(reader, at, length)) unproven.push([at + 4, length])
      at += 4 + length
    }
    const total = (reader.u8(21) & 15) * 2 ** 32 + reader.u32be(22)
    const channels = ((reader.u8(20) >> 1) & 7) + 1
    const sampleBits = (((reader.u8(20) & 1) << 4) | (reader.u8(21) >> 4)) + 1
    let { frames, samples } = (from?.state as Progress | undefined) ?? { frames: 0, samples: 0 }
    at = from?.at ?? at
    const first = at
    const starts = [{ at, state: { frames, samples } satisfies Progress }]
    while (true) {
      const head = headAt(reader, at, sampleBits)
      if (!head) {
        if (total > 0 && samples === total)
          return intactBut(
            KIND,
            at,
            unproven,
            reader.unitBytes,
            'every frame checksum matches and no sample is missing',
          )
        if (at === first && !from) return null
        return partial(KIND, { provenTo: at, breaksAt: at, why: 'frame is missing', resume: starts })
      }
      const isNext = head.channels === channels && (head.number === frames || head.number === samples)
      const end = isNext ? frameEnd(reader, at, head) : -1
      if (end < 0)
        return partial(KIND, {
          provenTo: at,
          breaksAt: Math.min(reader.size, at + 16_384),
          why: isNext ? 'frame checksum mismatch' : 'frame out of sequence',
          resume: starts,
        })
      samples += head.samples
      frames++
      at = end
      if (starts.push({ at, state: { frames, samples } }) > 8) starts.shift()
    }
  },
}

interface Progress {
  readonly frames: number
  readonly samples: number
}

/** Whether a metadata block is padding and contains only zeros. */
function isPadding(reader: Reader, at: number, length: number): boolean {
  if ((reader.u8(at) & 0x7f) !== 1) return false
  for (let done = 0; done < length; done += 4096)
    if (reader.bytes(at + 4 + done, Math.min(4096, length - done)).some((byte) => byte !== 0)) return false
  return true
}

const BITS = [0, 8, 12, 0, 16, 20, 24, 32]

/** A frame header with its own checksum; null where there is none. `sampleBits`: as the stream header states. */
function headAt(reader: Reader, at: number, sampleBits: number): FrameHead | null {
  if (!reader.has(at, 6) || reader.u8(at) !== 0xff || (reader.u8(at + 1) & 0xfe) !== 0xf8) return null
  const block = reader.u8(at + 2) >> 4
  const rate = reader.u8(at + 2) & 15
  const [assignment, size] = [reader.u8(at + 3) >> 4, (reader.u8(at + 3) >> 1) & 7]
  if (block === 0 || rate === 15 || assignment > 10 || size === 3) return null
  const told = numberAt(reader, at + 4)
  if (!told) return null
  let bytes = 4 + told.bytes
  let samples = block === 1 ? 192 : block <= 5 ? 576 * 2 ** (block - 2) : block >= 8 ? 256 * 2 ** (block - 8) : 0
  if (block === 6) samples = reader.u8(at + bytes) + 1
  if (block === 7) samples = reader.u16be(at + bytes) + 1
  bytes += block === 6 ? 1 : block === 7 ? 2 : 0
  bytes += rate === 12 ? 1 : rate >= 13 ? 2 : 0
  if (crc8Forward(reader.bytes(at, bytes)) !== reader.u8(at + bytes)) return null
  return {
    bytes: bytes + 1,
    samples,
    number: told.number,
    channels: assignment < 8 ? assignment + 1 : 2,
    sideChannel: assignment === 9 ? 0 : assignment >= 8 ? 1 : -1,
    sampleBits: size === 0 ? sampleBits : BITS[size]!,
  }
}

/** A number of one to seven bytes; the leading one bits of the first byte give its length (RFC 9639, section 9.1.5). */
function numberAt(reader: Reader, at: number): { number: number; bytes: number } | null {
  const first = reader.u8(at)
  const ones = Math.clz32(~(first << 24))
  if (ones === 0) return { number: first, bytes: 1 }
  if (ones === 1 || ones > 7) return null
  let number = first & (0x7f >> ones)
  for (let byte = 1; byte < ones; byte++) {
    if ((reader.u8(at + byte) & 0xc0) !== 0x80) return null
    number = number * 64 + (reader.u8(at + byte) & 0x3f)
  }
  return { number, bytes: ones }
}

/** where the frame ends, if its checksum is right; -1 if not, or if the frame cannot be followed */
function frameEnd(reader: Reader, at: number, head: FrameHead): number {
  for (let window = FIRST_WINDOW; window <= MAX_FRAME; window *= 8) {
    const bytes = reader.bytes(at, Math.min(window, reader.size - at))
    const end = contentEnd(bytes, head.bytes, head)
    if (end >= 0 && end + 2 <= bytes.length)
      return crc16Forward(bytes.subarray(0, end)) === ((bytes[end]! << 8) | bytes[end + 1]!) ? at + end + 2 : -1
    if (at + bytes.length >= reader.size) return -1
  }
  return -1
}
