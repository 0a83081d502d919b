import { Reader } from '../../sources/reader'
import { boxesWithin, boxLength, type BoxContent } from './box-tree'
import { partial, unverified, type Format, type Gap, type Walk } from './format'
import { firstMisfit, goesOnAt, isSure, samplesOf, tellingSamples, type Sample } from './samples'

/** Boxes that may be at the top level of a file (ISO/IEC 14496-12, 4.2, and its predecessor). */
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

/** The content of the samples has no checksum; that every sample is inside the file is checked. */
function boxes(id: string, extensions: readonly string[], isStill: boolean): Format {
  return {
    id,
    extensions,
    // In a still image the picture data come last and cannot be checked.
    isLoose: isStill,
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
    ...(isStill ? {} : { gaps: gapsOfFilm }),
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
    const { length, head } = boxLength(reader, at)
    if (length < head || !(TOP.has(type) || isMakers(reader, at, seen))) break
    // Only the structures of movies and stills count; what follows them may belong to another file.
    if (type === 'ftyp' && seen.has('ftyp')) break
    if (at + length > reader.size) {
      if (seen.size === 0) return null
      return partial(kind(), { provenTo: lastBig, breaksAt: reader.size, why: `${type} box is truncated` })
    }
    if (type === 'moov') movie = { at: at + head, end: at + length }
    if (type === 'mdat') lastBig = at + head
    seen.add(type)
    at += length
  }
  const has = (type: string) => seen.has(type)
  if (isStill)
    return has('meta') && has('mdat')
      ? unverified(kind(), at, 'box structure is consistent')
      : has('meta')
        ? partial(kind(), { provenTo: 0, breaksAt: at, why: 'picture data is missing' })
        : null
  if (!has('moov') && !has('moof')) {
    if (!has('ftyp') && !has('mdat')) return null
    return has('mdat') ? partial(kind(), { provenTo: lastBig, breaksAt: at, why: 'sample table is missing' }) : null
  }
  if (movie) {
    const fault = samplesFault(reader, movie.at, movie.end, at)
    if (fault === 'none') return null
    if (fault) return partial(kind(), { provenTo: lastBig, breaksAt: at, why: fault })
    const { misfit } = misfitOf(reader, movie)
    if (misfit)
      return partial(kind(), {
        provenTo: lastBig,
        breaksAt: misfit.at,
        why: 'invalid sample data',
      })
  }
  if (!has('mdat')) return partial(kind(), { provenTo: 0, breaksAt: at, why: 'sample data is missing' })
  return unverified(kind(), at, 'box structure is consistent and every sample is inside the file')
}

/** Makers put boxes of their own behind a film that is complete. */
function isMakers(reader: Reader, at: number, seen: ReadonlySet<string>): boolean {
  const isComplete = seen.has('moov') && seen.has('mdat')
  const length = reader.u32be(at)
  return (
    isComplete &&
    length >= 8 &&
    length <= MAX_MAKERS_BYTES &&
    at + length <= reader.size &&
    MAKERS.test(reader.text(at + 4, 4))
  )
}

const MAKERS = /^[A-Za-z][A-Za-z0-9_]{3}$/
const MAX_MAKERS_BYTES = 16 * 1024 * 1024

function hasVideo(reader: Reader, from: number, end: number): boolean {
  for (const { at } of boxesWithin(reader, from, end, 'hdlr')) if (reader.is(at + 8, 'vide')) return true
  return false
}

/** Whether all chunks of samples are inside the file; `none` where the index is invalid. */
function samplesFault(reader: Reader, from: number, end: number, size: number): string | null {
  if ([...boxesWithin(reader, from, end, 'mdhd')].length === 0) return 'none'
  for (const [type, width] of [
    ['stco', 4],
    ['co64', 8],
  ] as const)
    for (const { at, end: boxEnd } of boxesWithin(reader, from, end, type)) {
      const count = reader.u32be(at + 4)
      if (at + 8 + count * width > boxEnd) return 'sample table is damaged'
      for (let index = 0; index < count; index++) {
        const place = width === 4 ? reader.u32be(at + 8 + index * 4) : reader.u64be(at + 8 + index * 8)
        if (place >= size) return 'sample table points beyond the end of the file'
      }
    }
  return null
}

/** The samples of a movie whose coding can be recognised, and the first one that is not where it should be. */
function misfitOf(
  reader: Reader,
  movie: BoxContent,
  shift = 0,
): { samples: Sample[]; index: number; misfit: Sample | null; near: Reader } {
  // Samples are far apart, and only a few bytes of each are read.
  const near = new Reader(reader.source, reader.unitBytes, SAMPLE_WINDOW_BYTES)
  const samples = tellingSamples(near, samplesOf(reader, movie), shift)
  const index = firstMisfit(near, samples)
  return { samples, index, misfit: samples[index] ?? null, near }
}

/** How far ahead the rest of a fragmented movie is searched for, in bytes. */
const MAX_GAP_BYTES = 64 * 1024 * 1024
const SAMPLE_WINDOW_BYTES = 512
const MAX_GAPS = 8

/**
 * Where a movie was cut: its index gives the offset of each sample, and data that cannot be that sample show where it
 * no longer is. An index behind the samples also gives, by its own offset, the length of the gap.
 */
function* gapsOfFilm(reader: Reader): Iterable<Gap> {
  let movie: BoxContent | null = null
  let at = 0
  while (reader.has(at, 8) && TOP.has(reader.text(at + 4, 4))) {
    const { length, head } = boxLength(reader, at)
    if (length < head || at + length > reader.size) break
    if (reader.text(at + 4, 4) === 'moov') movie = { at: at + head, end: at + length }
    at += length
  }
  if (movie) {
    const { samples, index, misfit, near } = misfitOf(reader, movie)
    let found = 0
    for (let gap = reader.unitBytes; misfit && gap < MAX_GAP_BYTES && found < MAX_GAPS; gap += reader.unitBytes)
      if (goesOnAt(near, samples, index, gap)) {
        found++
        yield* cutsFor(reader, samples, index, gap)
      }
    return
  }
  for (let gap = reader.unitBytes; gap < MAX_GAP_BYTES && reader.has(at + gap, 16); gap += reader.unitBytes) {
    const behind = movieAt(reader, at + gap)
    if (!behind || samplesFault(reader, behind.at, behind.end, at) !== null) continue
    const { samples, index, near } = misfitOf(reader, behind, gap)
    const from = index < 0 ? samples.length : index
    if (samples.length > 0 && goesOnAt(near, samples, from, gap)) yield* cutsFor(reader, samples, from, gap, at)
    return
  }
}

/** An index of samples at an offset, or behind a free box. */
function movieAt(reader: Reader, at: number): BoxContent | null {
  const { length, head } = boxLength(reader, at)
  const type = reader.text(at + 4, 4)
  if (length < head || at + length > reader.size) return null
  if (type === 'moov') return { at: at + head, end: at + length }
  return (type === 'free' || type === 'skip') && reader.is(at + length + 4, 'moov')
    ? movieAt(reader, at + length)
    : null
}

/**
 * The cuts that leave everything before the first misplaced sample where it is and move everything behind it by one
 * distance. Where there are several, those come first that skip data which cannot be part of a movie.
 */
function cutsFor(reader: Reader, samples: readonly Sample[], misfit: number, gap: number, end = Infinity): Gap[] {
  const { unitBytes } = reader
  // A sample with few fixed bits may have matched by chance.
  const before = samples.slice(0, misfit).findLast(isSure) ?? samples[misfit - UNSURE_BEFORE]
  const after = samples[misfit]
  const from = before ? before.at : 0
  const to = after ? after.at + after.bytes : end
  const first = Math.floor(from / unitBytes) + 1
  const count = Math.min(MAX_CUTS, Math.floor(to / unitBytes) - first + 1)
  const odd = (unit: number, shift: number) => Number(isForeign(reader.bytes(unit * unitBytes + shift, unitBytes)))
  const gaps: (Gap & { odd: number })[] = []
  for (let index = 0; index < count; index++) {
    let sum = 0
    for (let unit = 0; unit < count - 1; unit++) sum += odd(first + unit, unit < index ? 0 : gap)
    gaps.push({ cut: (first + index) * unitBytes, at: (first + index) * unitBytes + gap, odd: sum })
  }
  return gaps.sort((a, b) => a.odd - b.odd)
}

const MAX_CUTS = 64
const UNSURE_BEFORE = 6

/** What the compressed content of a movie hardly ever is: text, or mostly zeros. */
function isForeign(bytes: Uint8Array): boolean {
  let plain = 0
  let zeros = 0
  for (let at = 0; at < bytes.length; at++) {
    const byte = bytes[at]!
    if ((byte >= 0x20 && byte < 0x7f) || byte === 10) plain++
    if (byte === 0 && bytes[at + 1] === 0 && bytes[at + 2] === 0) zeros++
  }
  return plain > bytes.length * 0.9 || zeros > 8 + bytes.length / 64
}

export const movie = boxes('mp4', ['mp4', 'mov', 'm4v', 'm4a', 'm4b', '3gp', '3g2', 'qt'], false)
export const heif = boxes('heif', ['heic', 'heif', 'avif'], true)
