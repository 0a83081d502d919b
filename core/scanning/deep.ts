import { FORMATS, formatOfName } from '../files/formats/registry'
import type { Format, Walk } from '../files/formats/format'
import { isTextByte, readsAsText, text } from '../files/formats/text'
import { lengthOf, type FileSystem, type Layout } from '../volumes/filesystems/file-system'
import type { Volume } from '../volumes/volumes'
import { Reader } from '../sources/reader'
import { piecesSource, sliceSource, type ByteSource, type Extent } from '../sources/source'
import { areasOf } from './areas'
import type { MediaItem } from './item'
import { joinPieces, onImage, Tries, without } from './join'

const SECTOR_BYTES = 512
/** So much at a time stays in the cache of the processor while it is looked at. */
const BLOCK_BYTES = 1024 * 1024
/** A broken one of which less could be followed is no find. */
const MIN_PARTIAL = 4096

export interface DeepOptions {
  /** also where the file systems say that something is in use */
  readonly isWhole: boolean
  /** only these formats, by their ids; all where it is null */
  readonly formats: ReadonlySet<string> | null
  /** go on from this offset of the image, having found these before it */
  readonly from?: number
  readonly found?: readonly MediaItem[]
}

export interface DeepStep {
  /** everything before this offset of the image was looked at, in bytes */
  readonly at: number
  readonly bytesRead: number
  readonly items: readonly MediaItem[]
  /** where an earlier file system of a volume's kind left traces, in bytes of the image */
  readonly traces: readonly number[]
}

/**
 * The deep scan: looks at every sector for the beginnings of known formats and follows their structure. Tells after each
 * block how far it came and what it found there, so that whoever drives it can stop, and go on later from there.
 */
export function* deepScan(image: ByteSource, volumes: readonly Volume[], options: DeepOptions): Generator<DeepStep> {
  const formats = FORMATS.filter(({ id }) => options.formats === null || options.formats.has(id))
  const starts = new Starts(formats)
  const areas = areasOf(image, volumes, options.isWhole)
  let bytesRead = 0
  let skipTo = Math.max(options.from ?? 0, endOf(options.found, 'intact'))
  let fitsTo = endOf(options.found, 'unverified')
  const buffer = new Uint8Array(BLOCK_BYTES)
  for (const [offset, length] of areas) {
    const end = offset + length
    const fileSystem = volumeAt(volumes, offset)?.fileSystem ?? null
    for (let at = offset; at < end; at += BLOCK_BYTES) {
      const size = Math.min(BLOCK_BYTES, end - at)
      if (at + size <= skipTo) continue
      const block = blockAt(image, buffer, at, size)
      bytesRead += block.length
      const items: MediaItem[] = []
      for (const within of starts.in(block, Math.max(0, skipTo - at))) {
        const start = at + within
        if (start < skipTo) continue
        const isInOther = start < fitsTo
        // What only fits may hide the beginning of another file; that would begin with a cluster, as files do.
        if (isInOther && (start - unitsFromAt(volumes, start)) % unitAt(volumes, start) !== 0) continue
        const found = carve(image, [start, end - start], starts.formatsAt(block, within), unitAt(volumes, start))
        if (!found || (isInOther && isPoor(found.walk))) continue
        items.push(itemOf(found.walk, found.extents, volumes))
        // Inside of a whole file nothing else begins; a broken one may hold the beginnings of others.
        if (found.walk.whole === 'intact') skipTo = Math.max(skipTo, start + found.walk.bytes)
        if (found.walk.whole === 'unverified') fitsTo = Math.max(fitsTo, start + found.walk.bytes)
      }
      yield { at: at + size, bytesRead, items, traces: tracesIn(block, at, fileSystem) }
    }
  }
}

/** What begins at some places that were skipped before, and of what is told by its beginning there. Offsets in bytes. */
export function* contentAt(
  image: ByteSource,
  volumes: readonly Volume[],
  options: DeepOptions,
  places: readonly number[],
): Generator<MediaItem> {
  const starts = new Starts(FORMATS.filter(({ id }) => options.formats === null || options.formats.has(id)))
  const areas = areasOf(image, volumes, options.isWhole)
  for (const place of places) {
    const area = areas.find(([offset, length]) => place >= offset && place < offset + length)
    if (!area) continue
    const block = image.read(place, SECTOR_BYTES)
    if (starts.in(block, 0)[Symbol.iterator]().next().done) continue
    const unitBytes = unitAt(volumes, place)
    const found = carve(image, [place, area[0] + area[1] - place], starts.formatsAt(block, 0), unitBytes)
    if (found) yield itemOf(found.walk, found.extents, volumes)
  }
}

/** Where the last of some things that were found in one piece ends. */
const endOf = (found: readonly MediaItem[] = [], content: MediaItem['content']) =>
  found
    .filter((item) => item.content === content && item.extents.length === 1)
    .reduce((end, { extents: [first] }) => Math.max(end, first![0] + first![1]), 0)

function tracesIn(block: Uint8Array, from: number, fileSystem: FileSystem | null): number[] {
  const places: number[] = []
  if (fileSystem)
    for (let at = 0; at + SECTOR_BYTES <= block.length; at += SECTOR_BYTES)
      if (fileSystem.traces.begins(block, at)) places.push(from + at)
  return places
}

const volumeAt = (volumes: readonly Volume[], offset: number) =>
  volumes.find(({ shape }) => offset >= shape.offset && offset < shape.offset + shape.bytes)

function blockAt(image: ByteSource, buffer: Uint8Array, at: number, size: number): Uint8Array {
  if (!image.readInto) return image.read(at, size)
  return buffer.subarray(0, image.readInto(buffer.subarray(0, size), at))
}

/** Too little to speak against something that fits where it begins: so short a mark stands in other bytes by chance. */
const isPoor = ({ whole, mime, extension }: Walk) =>
  isText(mime) ||
  (whole === 'partial' && !formatOfName(`x.${extension}`)?.signatures.some(([, mark]) => mark.length >= 3))

/** known by statistics only, without a mark at its beginning */
const isPlainText = ({ mime }: { mime: string | null }) => mime === 'text/plain'

const isText = (mime: string | null) => mime?.startsWith('text/') === true || mime === 'message/rfc822'

/** Tells at which sectors of a block a known format may begin. */
class Starts {
  /** by the first two bytes: 1 where some format may begin so, 2 where only text may, 0 where nothing does */
  private readonly pairs = new Uint8Array(65_536)
  private readonly hasText: boolean
  private readonly byPair = new Map<number, Format[]>()

  constructor(formats: readonly Format[]) {
    this.hasText = formats.includes(text)
    if (this.hasText)
      for (let pair = 0; pair < 65_536; pair++) if (mayBeginText(pair & 255, pair >> 8)) this.pairs[pair] = 2
    for (const format of formats)
      for (const [at, bytes] of format.signatures) {
        // The length of a box stands before its name; no first box is larger than sixteen million bytes.
        const pairs =
          at === 0
            ? [bytes.charCodeAt(0) | (bytes.charCodeAt(1) << 8)]
            : Array.from({ length: 256 }, (_, second) => second << 8)
        for (const pair of pairs) {
          this.pairs[pair] = 1
          const own = this.byPair.get(pair) ?? []
          if (!own.includes(format)) this.byPair.set(pair, [...own, format])
        }
      }
  }

  *in(block: Uint8Array, from: number): Iterable<number> {
    const first = Math.ceil(from / SECTOR_BYTES) * SECTOR_BYTES
    const { pairs } = this
    for (let at = first; at + 16 <= block.length; at += SECTOR_BYTES) {
      // Nearly every sector of noise or nothing is passed over by this one look.
      const kind = pairs[block[at]! | (block[at + 1]! << 8)]!
      if (kind === 0) continue
      if (
        kind === 1
          ? (block[at] !== 0 || block[at + 4]! >= 0x61) && this.formatsAt(block, at).length > 0
          : isTextStart(block, at)
      )
        yield at
    }
  }

  formatsAt(block: Uint8Array, at: number): Format[] {
    const own = this.byPair.get(block[at]! | (block[at + 1]! << 8)) ?? []
    const found = own.filter(({ signatures }) =>
      signatures.some(([offset, bytes]) => matches(block, at + offset, bytes)),
    )
    if (found.length === 0 && this.hasText && isTextStart(block, at)) found.push(text)
    return found
  }
}

function matches(block: Uint8Array, at: number, bytes: string): boolean {
  for (let index = 0; index < bytes.length; index++) if (block[at + index] !== bytes.charCodeAt(index)) return false
  return true
}

/** 1 for a letter, digit, blank or sign, 2 for what may begin a character of several bytes. */
const IS_PLAIN = Uint8Array.from({ length: 256 }, (_, byte) =>
  isTextByte(byte) && byte < 0x80 ? 1 : byte >= 0xc2 && byte < 0xf5 ? 2 : 0,
)

const mayBeginText = (first: number, second: number) =>
  (IS_PLAIN[first] === 1 && IS_PLAIN[second] === 1) || (IS_PLAIN[first] === 2 && (second & 0xc0) === 0x80)

/** Told first by four plain bytes, or characters of several, so that noise costs next to nothing. */
function isTextStart(block: Uint8Array, at: number): boolean {
  const first = IS_PLAIN[block[at]!]
  if (first === 2 ? (block[at + 1]! & 0xc0) !== 0x80 : first === 0 || IS_PLAIN[block[at + 1]!] !== 1) return false
  const third = IS_PLAIN[block[at + 2]!]
  if (third === 2 ? (block[at + 3]! & 0xc0) !== 0x80 : third === 0 || IS_PLAIN[block[at + 3]!] === 0)
    if (first === 1 || (block[at + 2]! & 0xc0) !== 0x80) return false
  for (let index = 0; index < 16; index++) if (!isTextByte(block[at + index]!)) return false
  return readsAsText(block.subarray(at, Math.min(block.length, at + 256)))
}

interface Carved {
  readonly walk: Walk
  readonly extents: readonly Extent[]
}

/** Follows each format that may begin there, in one stretch. */
function carve(
  image: ByteSource,
  [start, length]: Extent,
  formats: readonly Format[],
  unitBytes: number,
): Carved | null {
  let best: Carved | null = null
  for (const format of formats) {
    const walk = format.walk(new Reader(sliceSource(image, start, length), unitBytes))
    if (!walk) continue
    const carved: Carved = { walk, extents: [[start, walk.bytes]] }
    if (walk.whole !== 'partial') return carved
    if (walk.breaksAt > (best?.walk.breaksAt ?? 0)) best = carved
  }
  return best
}

/** Of more broken files than that, the rest is told as it was found. */
const MAX_BROKEN = 5000

export interface MendOptions {
  readonly isWhole: boolean
  /** where the deep scan met traces, in bytes of the image */
  readonly traces: readonly number[]
  /** where other files that were deleted say that they lay */
  readonly claimed: readonly Extent[]
}

/**
 * Tries to join what lies in pieces, out of what is claimed by nothing: called when the whole image was looked at. Tells
 * after each; those that are still broken and too short to be of use are left out.
 */
export function* mend(
  image: ByteSource,
  volumes: readonly Volume[],
  items: readonly MediaItem[],
  options: MendOptions,
): Generator<{ readonly broken: MediaItem; readonly mended: MediaItem | null; readonly isKept: boolean }> {
  const areas = areasOf(image, volumes, options.isWhole)
  const budget = new Tries(items.filter(({ content }) => content === 'partial').length)
  const laidOut = new Map<MediaItem, Carved>()
  const layoutsOf = volumes.map(({ shape, fileSystem }) => {
    const own = options.traces.filter((place) => place >= shape.offset && place < shape.offset + shape.bytes)
    return own.length > 0 ? fileSystem?.traces.layouts(own) : undefined
  })
  const proven = items.filter(({ content }) => content === 'intact').flatMap(({ extents }) => extents)
  if (layoutsOf.some((layouts) => layouts !== undefined))
    for (const item of items.filter(({ content, record }) => content !== 'intact' && record === 'none')) {
      const layouts = layoutsOf[volumes.findIndex(({ shape }) => shape.index === item.volume)]
      const laid =
        layouts &&
        byLayouts(
          image,
          layouts(item.extents[0]![0], item.content === 'partial' ? item.bytes : Infinity),
          item,
          unitAt(volumes, item.extents[0]![0]),
          budget,
        )
      // A list may be older than a whole file that lies in one of its places now.
      const isOlder = laid?.walk.whole === 'unverified' && touch(laid.extents, proven)
      if (laid && !isOlder) laidOut.set(item, laid)
    }
  // What was told as text by its statistics may be the rest of a file that has a structure.
  const taken = [
    ...items.filter((item) => item.content !== 'partial' && !isPlainText(item) && !laidOut.has(item)),
    ...laidOut.values(),
  ].flatMap(({ extents }) => extents)
  // What is free is reckoned anew only when something was joined.
  let free: readonly Extent[] = []
  let freeIn = 0
  const candidates = items.filter((item) => item.content === 'partial' || laidOut.has(item))
  for (const [index, broken] of candidates.entries()) {
    const start = broken.extents[0]![0]
    const unitBytes = unitAt(volumes, start)
    const format = formatOfName(`x.${broken.extension}`)
    let joined = laidOut.get(broken) ?? null
    if (!joined && format && index < MAX_BROKEN) {
      if (freeIn !== unitBytes) free = without(areas, taken, unitBytes)
      freeIn = unitBytes
      joined = joinPieces(image, start, free, format, unitBytes, budget, options.claimed)
      if (joined) {
        freeIn = 0
        taken.push(...joined.extents)
      }
    }
    const isCovered = taken.some(([offset, length]) => start > offset && start < offset + length)
    yield {
      broken,
      mended: joined ? itemOf(joined.walk, joined.extents, volumes) : null,
      isKept: joined === null && broken.bytes >= MIN_PARTIAL && !isCovered,
    }
  }
}

const touch = (some: readonly Extent[], others: readonly Extent[]) =>
  some.some(([from, length]) => others.some(([at, long]) => at < from + length && at + long > from))

/** A file that its file system's traces give in several pieces: as the first of them say that prove it, or that fit. */
function byLayouts(
  image: ByteSource,
  layouts: Iterable<Layout>,
  item: MediaItem,
  unitBytes: number,
  budget: Tries,
): Carved | null {
  const format = formatOfName(`x.${item.extension}`)
  if (!format) return null
  let fits: Carved | null = null
  for (const { extents, isTold, more } of layouts) {
    if (!budget.take()) break
    const walk = format.walk(new Reader(piecesSource(image, extents), unitBytes))
    if (!walk) continue
    const carved = { walk, extents: onImage(extents, [[0, walk.bytes]]) }
    // It is not at its end where the lists that were tried so far are.
    const goesOn = walk.bytes >= lengthOf(extents) - unitBytes || (isTold && walk.whole === 'partial')
    const longer = goesOn ? byLayouts(image, more(), item, unitBytes, budget) : null
    const best = longer ?? carved
    if (best.walk.whole === 'partial' || best.walk.bytes <= extents[0]![1]) continue
    if (best.walk.whole === 'intact') return best
    // What fits without being proved is taken where it is told so, or where it did not fit in one piece.
    if (isTold || item.content === 'partial') fits ??= best
  }
  return fits
}

function unitsFromAt(volumes: readonly Volume[], offset: number): number {
  const volume = volumeAt(volumes, offset)
  return volume?.fileSystem?.unitsFrom ?? volume?.shape.offset ?? 0
}

function unitAt(volumes: readonly Volume[], offset: number): number {
  const volume = volumeAt(volumes, offset)
  return volume?.fileSystem?.unitBytes ?? SECTOR_BYTES
}

const JOINED = {
  intact: 'fragments reassembled; the structure proves the order',
  unverified: 'fragmented, as its own lengths and the data between show',
  partial: 'fragmented',
}

/** What has no record is known by where it begins. */
const keyOfContent = (start: number) => `c${start.toString(16)}`

function itemOf(walk: Walk, extents: readonly Extent[], volumes: readonly Volume[]): MediaItem {
  const [start] = extents[0]!
  const volume = volumeAt(volumes, start)
  return {
    key: keyOfContent(start),
    volume: volume?.shape.index ?? null,
    path: null,
    record: 'none',
    created: null,
    modified: null,
    deleted: null,
    bytes: walk.bytes,
    mime: walk.mime,
    extension: walk.extension,
    type: walk.type,
    foundBy: ['deep'],
    content: walk.whole,
    checks: [...walk.checks, ...(extents.length > 1 ? [JOINED[walk.whole]] : [])],
    extents,
    source: null,
  }
}
