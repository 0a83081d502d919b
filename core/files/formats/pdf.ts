import { inflatedStream } from '../../sources/inflate'
import { Reader } from '../../sources/reader'
import { piecesSource, sliceSource, type Extent } from '../../sources/source'
import { intactBut, partial, unverified, type Format, type Gap, type Walk } from './format'
import { pictureAt } from './jpeg/jpeg'
import { latin1 } from './latin1'
import { tableAt } from './pdf-table'

const KIND = { mime: 'application/pdf', extension: 'pdf', type: 'documents' } as const
const MAX_BYTES = 512 * 1024 * 1024
const WINDOW = 1 << 20
/** How far behind the beginning the end of a fragmented file is searched for, and how many ends are tried. */
const MAX_GAP_BYTES = 32 * 1024 * 1024
const MAX_ENDS = 8
const MAX_UNPACKED_BYTES = 256 * 1024 * 1024

/**
 * PDF: ends with the last end mark whose cross-reference table fits. Each object of the table must be at its offset; a
 * compressed stream must unpack with the right checksum (ISO 32000-1, 7.5).
 */
export const pdf: Format = {
  id: 'pdf',
  extensions: ['pdf'],
  signatures: [[0, '%PDF-']],
  isProvable: true,
  walk(reader) {
    if (!reader.is(0, '%PDF-')) return null
    const ends = endMarks(reader)
    if (ends.length === 0)
      return partial(KIND, { provenTo: 0, breaksAt: Math.min(reader.size, WINDOW), why: 'end marker is missing' })
    let fault = 'end marker is missing'
    for (const end of [...ends].reverse()) {
      const told = proof(reader, end)
      if (typeof told === 'string') {
        fault = told
        continue
      }
      const bytes = lineEnd(reader, end)
      if (announcedLength(reader) > bytes)
        return partial(KIND, { provenTo: 0, breaksAt: bytes, why: 'linearization dictionary states a greater length' })
      return told.proved
        ? intactBut(
            KIND,
            bytes,
            between(told.proved, bytes),
            reader.unitBytes,
            `${told.objects} objects are at the offsets of the cross-reference table and every stream decompresses with a matching checksum`,
          )
        : unverified(KIND, bytes, `${told.objects} objects are at the offsets of the cross-reference table`)
    }
    return partial(KIND, { provenTo: 0, breaksAt: lineEnd(reader, ends.at(-1)!), why: fault })
  },
  *gaps(reader) {
    let tried = 0
    for (const end of everyEndMark(reader, MAX_GAP_BYTES)) {
      const table = tableOf(reader, end)
      if (table === null) continue
      yield* gapsBefore(reader, table, end)
      if (++tried === MAX_ENDS) return
    }
  },
}

/** The length in the linearization dictionary (ISO 32000-1, annex F.2.2); 0 where there is none. */
function announcedLength(reader: Reader): number {
  const head = latin1(reader.bytes(0, 1024))
  return head.includes('/Linearized') ? Number(/\/L\s+(\d{1,12})/.exec(head)?.[1] ?? 0) : 0
}

/**
 * The cross-reference table is found by its distance from where it should be; each object, by the side of the gap that
 * it is on.
 */
function* gapsBefore(reader: Reader, table: number, end: number): Iterable<Gap> {
  const { unitBytes } = reader
  for (let gap = unitBytes; table + gap < end; gap += unitBytes) {
    if (!/^(xref\s|\d+ \d+ obj\b)/.test(latin1(reader.bytes(table + gap, 20)))) continue
    // Tables of earlier versions may be on either side.
    const isThere = (place: number) => /^\s*(xref|\d+ \d+ obj)\b/.test(latin1(reader.bytes(place, 24)))
    const places = tableAt(reader, table, end, (place) => (place !== table && isThere(place) ? place : place + gap))
    const between = places && cutBetween(reader, places, { gap, table })
    if (!between) continue
    for (const cut of cutsIn(reader, between, gap)) yield { cut, at: cut + gap }
    return
  }
}

/** The last object in its place and the next one that comes this much later: the cut is between their beginnings. */
interface Between {
  readonly from: number
  readonly to: number
}

function cutBetween(
  reader: Reader,
  places: ReadonlyMap<number, number>,
  { gap, table }: { readonly gap: number; readonly table: number },
): Between | null {
  const isObject = (number: number, at: number) =>
    new RegExp(`^\\s*${number}\\s+\\d+\\s+obj\\b`).test(latin1(reader.bytes(at, 32)))
  const sorted = [...places].sort(([, a], [, b]) => a - b)
  const later = sorted.findIndex(([number, place]) => !isObject(number, place))
  const behind = later < 0 ? [] : sorted.slice(later)
  // The head of one object may itself be cut through.
  const isCutThrough = behind.length > 0 && !isObject(behind[0]![0], behind[0]![1] + gap)
  if (!behind.slice(isCutThrough ? 1 : 0).every(([number, place]) => isObject(number, place + gap))) return null
  const before = later < 0 ? sorted : sorted.slice(0, later)
  return { from: before.at(-1)?.[1] ?? 0, to: behind[isCutThrough ? 1 : 0]?.[1] ?? table }
}

/** The possible cuts between two objects: first those that make the cut stream whole, if one does. */
function* cutsIn(reader: Reader, { from, to }: Between, gap: number): Iterable<number> {
  const { unitBytes, source } = reader
  const first = (Math.floor(from / unitBytes) + 1) * unitBytes
  const stream = streamAt(reader, from, Infinity)
  const joinedAt = (cut: number): Extent[] => [
    [stream!.from, cut - stream!.from],
    [cut + gap, source.size - cut - gap],
  ]
  // There is no cut behind the place where compressed data or a picture stop making sense.
  const picture =
    stream?.filter === 'DCTDecode' ? pictureAt(new Reader(sliceSource(source, stream.from), unitBytes)) : null
  const breaksAt = stream && picture ? stream.from + picture.breaksAt : to
  const last = Math.floor(Math.min(to, breaksAt) / unitBytes) * unitBytes
  let tried = 0
  for (let cut = last; stream && cut >= first && cut > stream.from && tried < MAX_CUTS; cut -= unitBytes, tried++) {
    const resume = picture?.resume.findLast(({ at }) => at <= cut - stream.from)
    const joined = new Reader(piecesSource(source, joinedAt(cut)), unitBytes)
    const isWhole =
      stream.filter === 'FlateDecode'
        ? isPacked(joined, 0, stream.length)
        : picture && isDrawn(pictureAt(joined, resume), stream.length)
    if (isWhole) return yield cut
  }
  for (let cut = last; cut >= first; cut -= unitBytes) yield cut
}

const MAX_CUTS = 256

/** the offsets behind all end marks */
function* everyEndMark(reader: Reader, most: number): Iterable<number> {
  for (let from = 0; from < Math.min(reader.size, most); from += WINDOW) {
    const bytes = reader.source.read(from, WINDOW + 8)
    for (let at = bytes.indexOf(PERCENT); at >= 0 && at < WINDOW; at = bytes.indexOf(PERCENT, at + 1))
      if (bytes[at + 1] === PERCENT && latin1(bytes.subarray(at, at + 5)) === '%%EOF') yield from + at + 5
  }
}

const PERCENT = 0x25

/** the same, up to the beginning of another file */
function endMarks(reader: Reader): number[] {
  const ends: number[] = []
  const most = Math.min(reader.size, MAX_BYTES)
  let zeros = 0
  for (let from = 0; from < most; from += WINDOW) {
    const bytes = reader.source.read(from, WINDOW + 8)
    for (
      let at = bytes.indexOf(PERCENT, from === 0 ? 5 : 0);
      at >= 0 && at < WINDOW;
      at = bytes.indexOf(PERCENT, at + 1)
    ) {
      const mark = latin1(bytes.subarray(at, at + 5))
      if (mark === '%%EOF') ends.push(from + at + 5)
      if (mark === '%PDF-' && ends.length > 0) return ends.slice(-40)
    }
    // A megabyte of zeros behind an end mark: the file is over.
    zeros = bytes.every((byte) => byte === 0) ? zeros + 1 : 0
    if (ends.length > 0 && (zeros > 0 || from > ends.at(-1)! + 64 * WINDOW)) break
    if (zeros > 4) break
  }
  return ends.slice(-40)
}

/** The offset of the cross-reference table, as given before an end mark (startxref). */
function tableOf(reader: Reader, end: number): number | null {
  const tail = latin1(reader.bytes(Math.max(0, end - 2048), Math.min(2048, end)))
  const mark = tail.lastIndexOf('startxref')
  const at = mark < 0 ? NaN : Number(/^startxref\s+(\d+)\s+%%EOF$/.exec(tail.slice(mark))?.[1] ?? NaN)
  return at < end ? at : null
}

function proof(reader: Reader, end: number): { objects: number; proved: readonly Extent[] | null } | string {
  const at = tableOf(reader, end)
  if (at === null) return 'offset of the cross-reference table is missing'
  const places = tableAt(reader, at, end)
  if (!places) return 'cross-reference table is missing'
  const offsets = [...new Set(places.values())].sort((a, b) => a - b)
  const proved: Extent[] = []
  let isEveryStreamProved = offsets.length > 0
  for (const [index, offset] of offsets.entries()) {
    const next = Math.min(offsets[index + 1] ?? end, end)
    const told = objectAt(reader, offset, next)
    if (told === null) return 'object is not at the offset of the cross-reference table'
    if (told === 'unproved') isEveryStreamProved = false
    else proved.push(told)
  }
  return { objects: offsets.length, proved: isEveryStreamProved ? proved : null }
}

interface Stream {
  /** where it begins and how long it is, in bytes */
  readonly from: number
  readonly length: number
  /** its filter; null where that is neither of the two that can be proved */
  readonly filter: 'FlateDecode' | 'DCTDecode' | null
}

/** The stream of the object at an offset; null where it has none, or its length is an indirect object. */
function streamAt(reader: Reader, at: number, end: number): Stream | null {
  const head = latin1(reader.bytes(at, Math.min(4096, end - at, reader.size - at)))
  const stream = /stream\r?\n/.exec(head)
  if (!/^\s*\d+\s+\d+\s+obj\b/.test(head) || !stream || head.slice(0, stream.index).includes('endobj')) return null
  const dictionary = head.slice(0, stream.index)
  const length = Number(/\/Length\s+(\d+)(?!\s+\d+\s+R)/.exec(dictionary)?.[1] ?? NaN)
  const from = at + stream.index + stream[0].length
  const filter = /\/Filter\s*\[?\s*\/(FlateDecode|DCTDecode)\b/.exec(dictionary)?.[1] as Stream['filter'] | undefined
  return { from, length, filter: filter ?? null }
}

/**
 * The range of an object's stream if unpacking proves it (empty, if it has no stream); null where there is no object.
 */
function objectAt(reader: Reader, at: number, end: number): Extent | 'unproved' | null {
  if (!/^\s*\d+\s+\d+\s+obj\b/.test(latin1(reader.bytes(at, Math.min(32, end - at))))) return null
  const stream = streamAt(reader, at, end)
  if (!stream) return latin1(reader.source.read(at, Math.min(end - at, WINDOW))).includes('endobj') ? [at, 0] : null
  const { from, length, filter } = stream
  if (!(from + length <= end)) return 'unproved'
  if (!/^\s*endstream/.test(latin1(reader.bytes(from + length, 16)))) return null
  if (length === 0) return [from, 0]
  const isProved =
    filter === 'FlateDecode'
      ? isPacked(reader, from, length)
      : filter === 'DCTDecode' &&
        isDrawn(pictureAt(new Reader(sliceSource(reader.source, from, length), reader.unitBytes)), length)
  return isProved ? [from, length] : 'unproved'
}

function isPacked(reader: Reader, from: number, length: number): boolean {
  const out = inflatedStream(reader.source.read(from, length), MAX_UNPACKED_BYTES)
  return out !== null && length - out.used <= 2
}

/** A picture in a stream is proved by decoding it; a line end may follow it. */
const isDrawn = (picture: Walk | null, length: number) =>
  picture?.whole === 'intact' && picture.bytes <= length && length - picture.bytes <= 2

/** The gaps between sorted ranges, up to an end. */
function between(stretches: readonly Extent[], end: number): Extent[] {
  const left: Extent[] = []
  let at = 0
  for (const [offset, length] of stretches) {
    if (offset > at) left.push([at, offset - at])
    at = Math.max(at, offset + length)
  }
  return at < end ? [...left, [at, end - at]] : left
}

function lineEnd(reader: Reader, at: number): number {
  if (reader.is(at, '\r\n')) return at + 2
  return reader.is(at, '\n') || reader.is(at, '\r') ? at + 1 : at
}
