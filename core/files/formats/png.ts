import { crc32 } from '../../sources/checksums'
import type { Reader } from '../../sources/reader'
import { cutsByChecksum } from './cut-by-checksum'
import { intact, partial, type Format, type Gap } from './format'

const KIND = { mime: 'image/png', extension: 'png', type: 'photos' } as const
const HEAD = '\x89PNG\r\n\x1a\n'
const CHUNK_TYPE = /^[A-Za-z]{4}$/
const STEP = 1 << 20

/** PNG: chunks, each with a checksum over its type and data (ISO/IEC 15948, 5.3). */
export const png: Format = {
  id: 'png',
  extensions: ['png'],
  signatures: [[0, HEAD]],
  isProvable: true,
  walk(reader, from) {
    if (!reader.is(0, HEAD)) return null
    let at = from?.at ?? HEAD.length
    const starts = [{ at, state: null }]
    while (true) {
      const broken = (why: string, end = at) =>
        partial(KIND, { provenTo: at, breaksAt: Math.min(end, reader.size), why, resume: starts })
      if (!reader.has(at, 12)) return broken('chunk is truncated')
      const length = reader.u32be(at)
      const type = reader.text(at + 4, 4)
      if (length > 0x7fffffff || !CHUNK_TYPE.test(type)) return broken('invalid chunk header', at + 8)
      if (at === HEAD.length && type !== 'IHDR') return null
      if (!reader.has(at, length + 12)) return broken('chunk is truncated', reader.size)
      let sum = 0
      for (let done = 0; done < length + 4; done += STEP)
        sum = crc32(reader.bytes(at + 4 + done, Math.min(STEP, length + 4 - done)), sum)
      if (sum !== reader.u32be(at + 8 + length)) return broken(`${type} chunk checksum mismatch`, at + 12 + length)
      at += 12 + length
      if (type === 'IEND') return intact(KIND, at, 'every chunk checksum matches, up to the end marker')
      if (starts.push({ at, state: null }) > 8) starts.shift()
    }
  },
  gaps: gapsOfChunks,
}

/** How far ahead the rest of a chunk is searched for, in bytes. */
const MAX_GAP_BYTES = 64 * 1024 * 1024
/** What comes behind a chunk of picture data, mostly. */
const NEXT = new Set(['IDAT', 'IEND', 'tEXt', 'zTXt', 'iTXt', 'tIME', 'eXIf', 'fdAT', 'fcTL'])

/** The chunk that was cut through ends before the next one: their distance is known, and its checksum shows the cut. */
function* gapsOfChunks(reader: Reader): Iterable<Gap> {
  const { unitBytes } = reader
  const broken = png.walk(reader)
  if (broken?.whole !== 'partial') return
  const at = broken.provenTo
  const length = reader.u32be(at)
  const end = at + 8 + length
  if (length > 0x7fffffff || !CHUNK_TYPE.test(reader.text(at + 4, 4))) return
  for (let gap = unitBytes; gap <= MAX_GAP_BYTES && reader.has(end + gap, 12); gap += unitBytes) {
    const next = end + 4 + gap
    if (!NEXT.has(reader.text(next + 4, 4))) continue
    const sum = reader.u32be(end + gap)
    for (const cut of cutsByChecksum(reader, { from: at + 4, end, gap, sum })) yield { cut, at: cut + gap }
  }
}
