import type { Reader } from '../../sources/reader'
import { partial, unverified, type Format } from './format'

const KIND = { mime: 'audio/mpeg', extension: 'mp3', type: 'audio' } as const
const RATES = [44_100, 48_000, 32_000] as const
const BITRATES_1 = [0, 32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320] as const
const BITRATES_2 = [0, 8, 16, 24, 32, 40, 48, 56, 64, 80, 96, 112, 128, 144, 160] as const
const MIN_FRAMES = 12

/** MPEG audio, layer III: a sequence of frames of one kind (ISO/IEC 11172-3, 2.4.1). Their content has no checksum. */
export const mp3: Format = {
  id: 'mp3',
  extensions: ['mp3'],
  signatures: [
    [0, 'ID3'],
    [0, '\xff\xfb'],
    [0, '\xff\xfa'],
    [0, '\xff\xf3'],
    [0, '\xff\xf2'],
  ],
  walk(reader) {
    let at = tagEnd(reader)
    const hasTag = at > 0
    const first = frameAt(reader, at)
    if (!first) return null
    let frames = 0
    for (let frame: Frame | null = first; frame && frame.kind === first.kind; frame = frameAt(reader, at)) {
      if (!reader.has(at, frame.bytes))
        return frames >= MIN_FRAMES
          ? partial(KIND, { provenTo: 0, breaksAt: reader.size, why: 'file is truncated' })
          : null
      at += frame.bytes
      frames++
    }
    if (frames < (hasTag ? 2 : MIN_FRAMES)) return null
    if (reader.is(at, 'TAG')) at += 128
    const told = framesTold(reader, tagEnd(reader), first)
    if (told !== null && frames < told + 1)
      return partial(KIND, { provenTo: 0, breaksAt: at, why: 'fewer frames than its Xing header states' })
    return unverified(
      KIND,
      at,
      `${frames} consecutive frames${told === null ? '' : ', matching the frame count in its Xing header'}`,
    )
  },
}

interface Frame {
  readonly bytes: number
  readonly kind: number
  readonly sideBytes: number
}

function tagEnd(reader: Reader): number {
  if (!reader.is(0, 'ID3') || reader.u8(3) > 4) return 0
  let size = 0
  for (let index = 6; index < 10; index++) {
    if (reader.u8(index) > 127) return 0
    size = size * 128 + reader.u8(index)
  }
  return 10 + size
}

function frameAt(reader: Reader, at: number): Frame | null {
  if (!reader.has(at, 4)) return null
  const word = reader.u32be(at)
  const [version, layer, rate, frequency] = [
    (word >>> 19) & 3,
    (word >>> 17) & 3,
    (word >>> 12) & 15,
    (word >>> 10) & 3,
  ]
  if (word >>> 21 !== 0x7ff || version === 1 || layer !== 1 || rate === 0 || rate === 15 || frequency === 3) return null
  const isFirst = version === 3
  const hertz = RATES[frequency]! / (isFirst ? 1 : version === 2 ? 2 : 4)
  const kilobits = isFirst ? BITRATES_1[rate]! : BITRATES_2[rate]!
  const bytes = Math.floor(((isFirst ? 144 : 72) * kilobits * 1000) / hertz) + ((word >>> 9) & 1)
  const isMono = ((word >>> 6) & 3) === 3
  return { bytes, kind: (version << 2) | frequency, sideBytes: isFirst ? (isMono ? 17 : 32) : isMono ? 9 : 17 }
}

/** the frame count in the information frame that some writers put first */
function framesTold(reader: Reader, at: number, first: Frame): number | null {
  const mark = at + 4 + first.sideBytes
  if (!reader.is(mark, 'Xing') && !reader.is(mark, 'Info')) return null
  return reader.u32be(mark + 4) & 1 ? reader.u32be(mark + 8) : null
}
