import type { Reader } from '../../sources/reader'
import { boxesWithin, type BoxContent } from './box-tree'

const MAX_SAMPLES = 1_000_000

/** A sample of a movie: its range in bytes of the file, and its track. */
export interface Sample {
  readonly at: number
  readonly bytes: number
  readonly track: Track
}

export interface Track {
  /** how its samples are coded, four characters (ISO/IEC 14496-12, 8.5.2) */
  readonly coding: string
  /** for pictures stored as length-prefixed units: bytes of such a length */
  readonly lengthBytes: number
}

/**
 * Every sample in the sample tables of a movie, in file order (ISO/IEC 14496-12, 8.7): samples per chunk, offsets of
 * chunks, length of each sample. From damaged tables, what can be read.
 */
export function samplesOf(reader: Reader, movie: BoxContent): Sample[] {
  const samples: Sample[] = []
  for (const track of boxesWithin(reader, movie.at, movie.end, 'trak')) {
    const [only] = boxesWithin(reader, track.at, track.end, 'stsd')
    const own = only && trackOf(reader, only)
    // Uncompressed audio has a sample for every tick, and none of them can be recognised.
    if (own && TELLING.has(own.coding)) samplesOfTrack(reader, track, own, samples)
    if (samples.length > MAX_SAMPLES) break
  }
  return samples.sort((a, b) => a.at - b.at)
}

function samplesOfTrack(reader: Reader, { at, end }: BoxContent, track: Track, into: Sample[]): void {
  const first = (type: string) => boxesWithin(reader, at, end, type)[Symbol.iterator]().next().value
  const [sizes, chunks, near, far] = ['stsz', 'stsc', 'stco', 'co64'].map(first)
  const places = near ?? far
  if (!sizes || !chunks || !places) return
  const width = near ? 4 : 8
  const even = reader.u32be(sizes.at + 4)
  // A sample has a few bytes at least: more of them than there is room for is a damaged index.
  const count = Math.min(reader.u32be(sizes.at + 8), MAX_SAMPLES, Math.floor(reader.size / MIN_BYTES))
  const chunkCount = Math.min(reader.u32be(places.at + 4), Math.floor((places.end - places.at - 8) / width))
  const runs = Math.min(reader.u32be(chunks.at + 4), Math.floor((chunks.end - chunks.at - 8) / 12))
  let [sample, run] = [0, 0]
  for (let chunk = 0; chunk < chunkCount && sample < count; chunk++) {
    while (run + 1 < runs && reader.u32be(chunks.at + 8 + (run + 1) * 12) <= chunk + 1) run++
    const perChunk = runs > 0 ? reader.u32be(chunks.at + 12 + run * 12) : 0
    let place = width === 4 ? reader.u32be(places.at + 8 + chunk * 4) : reader.u64be(places.at + 8 + chunk * 8)
    for (let index = 0; index < perChunk && sample < count; index++, sample++) {
      const entry = sizes.at + 12 + sample * 4
      const bytes = even > 0 ? even : entry + 4 <= sizes.end ? reader.u32be(entry) : 0
      if (bytes > 0) into.push({ at: place, bytes, track })
      place += bytes
    }
  }
}

/** What the description of a track says about the coding of its samples. */
function trackOf(reader: Reader, { at, end }: BoxContent): Track {
  const entry = at + 8
  const coding = reader.text(entry + 4, 4)
  const isPicture = coding in LENGTHS_AT
  const head = isPicture ? 86 : 36
  let lengthBytes = 0
  for (const { at: settings } of isPicture ? boxesWithin(reader, entry + head, end, LENGTHS_AT[coding]![0]) : [])
    lengthBytes = (reader.u8(settings + LENGTHS_AT[coding]![1]) & 3) + 1
  return { coding, lengthBytes }
}

/** The length size in the decoder configuration of length-prefixed units (ISO/IEC 14496-15, 5.3.3 and 8.3.3). */
const LENGTHS_AT: Record<string, readonly [box: string, offset: number]> = {
  avc1: ['avcC', 4],
  avc3: ['avcC', 4],
  hvc1: ['hvcC', 21],
  hev1: ['hvcC', 21],
}

/** bytes of a speech frame by its type, its first byte included (3GPP TS 26.101, annex A, and 26.201) */
const SPEECH = [13, 14, 16, 18, 20, 21, 27, 32, 6, 0, 0, 0, 0, 0, 0, 1]
/** the codings that `fitsSample` knows */
const TELLING = new Set([...Object.keys(LENGTHS_AT), 'mp4a', 'mp4v', 's263', 'jpeg', 'mjpa', 'samr'])
const MIN_BYTES = 4
const TELLING_BYTES = 8
const MAX_UNITS = 1000

/**
 * Whether the data where a sample should be, `by` bytes later, can be one: null where its coding does not tell. Few of
 * its bytes are read. One audio frame says little: one in eight random sequences would match.
 */
export function fitsSample(reader: Reader, { at, bytes, track }: Sample, shift = 0): boolean | null {
  const from = at + shift
  if (!reader.has(from, bytes)) return false
  // A frame without changes takes a few arbitrary bytes.
  if (bytes < TELLING_BYTES) return null
  const { coding, lengthBytes } = track
  if (lengthBytes > 0) return unitsFit(reader, from, bytes, lengthBytes)
  if (coding === 'mp4a') return soundFits(reader, from, bytes)
  if (coding === 'mp4v') return reader.is(from, '\0\0\x01')
  if (coding === 's263') return reader.u16be(from) === 0 && (reader.u8(from + 2) & 0xfc) === 0x80
  if (coding === 'jpeg' || coding === 'mjpa') return reader.is(from, '\xff\xd8\xff')
  if (coding === 'samr') return speechFits(reader, from, bytes)
  return null
}

/** Length-prefixed units, to the end of the sample (ISO/IEC 14496-15, 4.3.3.1). */
function unitsFit(reader: Reader, from: number, bytes: number, lengthBytes: number): boolean {
  let at = 0
  for (let unit = 0; at < bytes; unit++) {
    if (unit > MAX_UNITS || at + lengthBytes >= bytes) return false
    let length = 0
    for (let byte = 0; byte < lengthBytes; byte++) length = length * 256 + reader.u8(from + at + byte)
    // The first bit of a unit is never set.
    if (length === 0 || reader.u8(from + at + lengthBytes) & 0x80) return false
    at += lengthBytes + length
  }
  return at === bytes
}

/**
 * The elements that an audio frame may begin with, and the end element before its padding (ISO/IEC 14496-3, 4.4.2.1).
 */
function soundFits(reader: Reader, from: number, bytes: number): boolean {
  if (!SOUND_BEGINS.has(reader.u8(from) >> 5)) return false
  let tail = reader.u16be(from + bytes - 2)
  for (let zeros = 0; zeros < 8 && (tail & 1) === 0; zeros++) tail >>= 1
  return (tail & 7) === 7
}

/** single channel, channel pair, data, fill */
const SOUND_BEGINS = new Set([0, 1, 4, 6])

function speechFits(reader: Reader, from: number, bytes: number): boolean {
  let at = 0
  while (at < bytes) {
    const head = reader.u8(from + at)
    const length = (head & 0x83) === 0 ? SPEECH[(head >> 3) & 15]! : 0
    if (length === 0) return false
    at += length
  }
  return at === bytes
}

/** Whether a single match is no coincidence. */
export const isSure = ({ track }: Sample) => track.coding !== 'mp4a'
const SURE_RUN = { sure: 1, unsure: 4 } as const
const LEARNT_FROM = { sure: 1, unsure: 8 } as const
const MAX_LOOKED_AT = 20_000

/**
 * The samples whose coding can be recognised: those of tracks whose first samples match, in their place or `by` bytes
 * later.
 */
export function tellingSamples(reader: Reader, samples: readonly Sample[], shift = 0): Sample[] {
  const firsts = new Map<Track, boolean[]>()
  for (const sample of samples) {
    const own = firsts.get(sample.track) ?? []
    if (own.length >= (isSure(sample) ? LEARNT_FROM.sure : LEARNT_FROM.unsure)) continue
    const fits = fitsSample(reader, sample) || (shift > 0 && fitsSample(reader, sample, shift))
    firsts.set(sample.track, [...own, fits === true])
  }
  const telling = new Set([...firsts].filter(([, fit]) => fit.every((one) => one)).map(([track]) => track))
  return samples.filter(({ track }) => telling.has(track))
}

/**
 * The index of the first sample that is not where it should be; -1 where all are. Of very many, some are tried first.
 */
export function firstMisfit(reader: Reader, samples: readonly Sample[]): number {
  const step = Math.ceil(samples.length / MAX_LOOKED_AT)
  if (step > 1) {
    const some = samples.filter((_, index) => index % step === 0)
    const near = firstMisfit(reader, some)
    if (near < 0) return -1
    const from = Math.max(0, (near - SURE_RUN.unsure) * step)
    const found = misfitIn(reader, samples, from, Math.min(samples.length, (near + SURE_RUN.unsure) * step + 1))
    return found < 0 ? near * step : found
  }
  return misfitIn(reader, samples, 0, samples.length)
}

function misfitIn(reader: Reader, samples: readonly Sample[], from: number, end: number): number {
  const runs = new Map<Track, { count: number; first: number }>()
  for (let index = from; index < end; index++) {
    const sample = samples[index]!
    if (fitsSample(reader, sample) !== false) {
      runs.delete(sample.track)
      continue
    }
    const run = runs.get(sample.track) ?? { count: 0, first: index }
    run.count++
    runs.set(sample.track, run)
    // The first failure of any track, now that one of them is certain.
    if (run.count >= (isSure(sample) ? SURE_RUN.sure : SURE_RUN.unsure))
      return Math.min(...[...runs.values()].map(({ first }) => first))
  }
  return -1
}

const SURE_FITS = 3
const UNSURE_FITS = 10
const MAX_MISSES = 3

/** Whether the samples from an index on are `by` bytes later: more of them than chance would give. */
export function goesOnAt(reader: Reader, samples: readonly Sample[], from: number, shift: number): boolean {
  let [sure, unsure, misses] = [0, 0, 0]
  for (let index = from; index < samples.length; index++) {
    const fits = fitsSample(reader, samples[index]!, shift)
    // With a cut inside a sample, only those behind it are contiguous again.
    if (fits === false && (index > from + 1 || ++misses > MAX_MISSES)) return false
    if (fits && isSure(samples[index]!)) sure++
    else if (fits) unsure++
    if (sure >= SURE_FITS || unsure >= UNSURE_FITS) return true
  }
  // The last samples of a film: fewer have to do.
  return sure > 0 || unsure > 2
}
