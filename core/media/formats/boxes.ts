import type { Reader } from '../reader'
import { partial, unverified, type Format, type Walk } from './format'

/** Boxes that may stand at the top of a file (ISO/IEC 14496-12, 4.2, and its older relative). */
const TOP = new Set(
  'ftyp moov mdat free skip wide pnot udta uuid meta moof mfra sidx styp emsg pdin prft ssix meco idat'.split(' '),
)
const STILL = new Set(['heic', 'heix', 'mif1', 'msf1', 'heim', 'heis', 'avif', 'avis', 'miaf'])

type Kind = Pick<Walk, 'mime' | 'extension' | 'type'>

function kindOf(brand: string, hasVideo: boolean | null): Kind {
  if (brand.startsWith('avi')) return { mime: 'image/avif', extension: 'avif', type: 'photos' }
  if (STILL.has(brand)) return { mime: 'image/heic', extension: 'heic', type: 'photos' }
  if (brand === 'qt  ') return { mime: 'video/quicktime', extension: 'mov', type: 'videos' }
  if (brand.startsWith('3g')) return { mime: 'video/3gpp', extension: '3gp', type: 'videos' }
  if (brand.startsWith('M4A') || brand.startsWith('M4B') || hasVideo === false)
    return { mime: 'audio/mp4', extension: 'm4a', type: 'audio' }
  return { mime: 'video/mp4', extension: 'mp4', type: 'videos' }
}

/** What is checked by nothing is the content of the samples; that every sample lies in the file is. */
function boxes(id: string, extensions: readonly string[], isStill: boolean): Format {
  return {
    id,
    extensions,
    signatures: [
      [4, 'ftyp'],
      ...(isStill
        ? []
        : ([
            [4, 'moov'],
            [4, 'mdat'],
            [4, 'wide'],
            [4, 'free'],
            [4, 'skip'],
          ] as const)),
    ],
    walk(reader) {
      const brand = reader.is(4, 'ftyp') ? reader.text(8, 4) : 'qt  '
      if (STILL.has(brand) !== isStill) return null
      return walkBoxes(reader, brand, isStill)
    },
  }
}

function walkBoxes(reader: Reader, brand: string, isStill: boolean): Walk | null {
  const seen = new Set<string>()
  let movie: { at: number; end: number } | null = null
  let at = 0
  let lastBig = 0
  const kind = () => kindOf(brand, movie ? hasVideo(reader, movie.at, movie.end) : null)
  while (reader.has(at, 8)) {
    const type = reader.text(at + 4, 4)
    if (!TOP.has(type)) break
    const { length, head } = lengthAt(reader, at)
    if (length < head) break
    // Only the structures of film and still decide; what follows them may be of another file.
    if (type === 'ftyp' && seen.has('ftyp')) break
    if (at + length > reader.size) {
      if (seen.size === 0) return null
      return partial(kind(), { provenTo: lastBig, breaksAt: reader.size, why: `its ${type} box is cut off` })
    }
    if (type === 'moov') movie = { at: at + head, end: at + length }
    if (type === 'mdat') lastBig = at + head
    seen.add(type)
    at += length
  }
  const has = (type: string) => seen.has(type)
  if (isStill)
    return has('meta') && has('mdat')
      ? unverified(kind(), at, 'its boxes fit from end to end')
      : has('meta')
        ? partial(kind(), { provenTo: 0, breaksAt: at, why: 'its picture data is not there' })
        : null
  if (!has('moov') && !has('moof')) {
    if (!has('ftyp') && !has('mdat')) return null
    return has('mdat')
      ? partial(kind(), { provenTo: lastBig, breaksAt: at, why: 'its index of samples is not there' })
      : null
  }
  if (movie) {
    const fault = samplesFault(reader, movie.at, movie.end, at)
    if (fault === 'none') return null
    if (fault) return partial(kind(), { provenTo: lastBig, breaksAt: at, why: fault })
  }
  if (!has('mdat')) return partial(kind(), { provenTo: 0, breaksAt: at, why: 'its samples are not there' })
  return unverified(kind(), at, 'its boxes fit from end to end, and every sample lies in it')
}

function lengthAt(reader: Reader, at: number): { length: number; head: number } {
  const length = reader.u32be(at)
  if (length === 1) return { length: reader.u64be(at + 8), head: 16 }
  return { length: length === 0 ? reader.size - at : length, head: 8 }
}

/** Every box of a type within a stretch, however deep in the boxes that hold others. */
function* within(
  reader: Reader,
  from: number,
  end: number,
  wanted: string,
  depth = 0,
): Iterable<{ at: number; end: number }> {
  const HOLDERS = new Set(['trak', 'mdia', 'minf', 'stbl', 'edts'])
  for (let at = from; at + 8 <= end;) {
    const { length, head } = lengthAt(reader, at)
    if (length < head || at + length > end) return
    const type = reader.text(at + 4, 4)
    if (type === wanted) yield { at: at + head, end: at + length }
    else if (HOLDERS.has(type) && depth < 6) yield* within(reader, at + head, at + length, wanted, depth + 1)
    at += length
  }
}

function hasVideo(reader: Reader, from: number, end: number): boolean {
  for (const { at } of within(reader, from, end, 'hdlr')) if (reader.is(at + 8, 'vide')) return true
  return false
}

/** Whether the places of all chunks of samples lie in the file; `none` where the index is not one at all. */
function samplesFault(reader: Reader, from: number, end: number, size: number): string | null {
  if ([...within(reader, from, end, 'mdhd')].length === 0) return 'none'
  for (const [type, width] of [
    ['stco', 4],
    ['co64', 8],
  ] as const)
    for (const { at, end: boxEnd } of within(reader, from, end, type)) {
      const count = reader.u32be(at + 4)
      if (at + 8 + count * width > boxEnd) return 'its index of samples is damaged'
      for (let index = 0; index < count; index++) {
        const place = width === 4 ? reader.u32be(at + 8 + index * 4) : reader.u64be(at + 8 + index * 8)
        if (place >= size) return 'its index tells of samples behind its end'
      }
    }
  return null
}

export const movie = boxes('mp4', ['mp4', 'mov', 'm4v', 'm4a', 'm4b', '3gp', '3g2', 'qt'], false)
export const heif = boxes('heif', ['heic', 'heif', 'avif'], true)
