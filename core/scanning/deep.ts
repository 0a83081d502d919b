import { FORMATS, formatOfName } from '../files/formats/registry'
import type { Walk } from '../files/formats/format'
import { mayBeginVolume } from '../volumes/lost-volumes'
import type { Volume } from '../volumes/volumes'
import type { ByteSource, Extent } from '../sources/source'
import { areasOf } from './areas'
import type { MediaItem } from './item'
import { Starts, SECTOR_BYTES } from './starts'
import { carve, unitAt, unitsFromAt, itemOf, volumeAt } from './carve'
import { answered, type Helpers, type Question } from './helpers'

/** Bytes a block: it stays in the processor's cache while it is scanned. */
const BLOCK_BYTES = 1024 * 1024

export interface DeepOptions {
  /** also where the file systems have something in use */
  readonly isWhole: boolean
  /** only these formats, by their ids; all where it is null */
  readonly formats: ReadonlySet<string> | null
  /** resume at this offset of the image, with what was found before it */
  readonly from?: number
  readonly found?: readonly MediaItem[]
  readonly helpers?: Helpers
}

export interface DeepStep {
  /** everything before this offset of the image has been scanned, in bytes */
  readonly at: number
  readonly bytesRead: number
  readonly items: readonly MediaItem[]
  /** where an earlier file system of the same kind left traces, or a volume may begin that is not known; in bytes of the image */
  readonly traces: readonly number[]
}

/**
 * The deep scan: checks every sector for signatures of known formats and follows their structure. Yields its progress
 * and results after each block, so that the caller can stop and resume later.
 */
export function* deepScan(image: ByteSource, volumes: readonly Volume[], options: DeepOptions): Generator<DeepStep> {
  const { helpers } = options
  const looked = new LookAhead(image, volumes, options)
  let skipTo = Math.max(options.from ?? 0, endOf(options.found, 'intact'))
  let fitsTo = endOf(options.found, 'unverified')
  for (let block = looked.next(skipTo); block; block = looked.next(skipTo)) {
    const items: MediaItem[] = []
    for (const question of block.questions) {
      const [start] = question.place
      if (start < skipTo) continue
      const isInOther = start < fitsTo
      // A file that merely parses may hide the beginning of another; that one would begin at a cluster, as files do.
      if (isInOther && (start - unitsFromAt(volumes, start)) % question.unitBytes !== 0) continue
      if (isInOther && question.formats.every((id) => TEXTS.has(id))) continue
      const found = answered(helpers, image, question)
      if (!found || (isInOther && isPoor(found.walk))) continue
      items.push(itemOf(found.walk, found.extents, volumes))
      // Inside a whole file nothing else begins; a broken one may contain the beginnings of others.
      if (found.walk.whole === 'intact') {
        skipTo = Math.max(skipTo, start + found.walk.bytes)
        looked.proven += found.walk.bytes
        helpers?.pass(skipTo)
      }
      if (found.walk.whole === 'unverified') fitsTo = Math.max(fitsTo, start + found.walk.bytes)
    }
    yield { at: block.at + block.bytes, bytesRead: looked.bytesRead, items, traces: block.traces }
  }
}

/** A block of the medium that was looked at, and what was seen in it. */
interface Looked {
  readonly at: number
  readonly bytes: number
  readonly questions: readonly (Question & { asks: 'file' })[]
  readonly traces: readonly number[]
}

/** Reads the blocks of a scan, further ahead where helpers can follow files meanwhile. */
class LookAhead {
  bytesRead = 0
  /** bytes of whole files so far: proving them takes the time, and not films, of which little is read */
  proven: number
  private readonly ahead: Looked[] = []
  private readonly starts: Starts
  private readonly blocks: Iterator<{ at: number; bytes: number; end: number }>
  private readonly buffer = new Uint8Array(BLOCK_BYTES)
  /** where volumes may begin, so far */
  private places = 0

  constructor(
    private readonly image: ByteSource,
    private readonly volumes: readonly Volume[],
    private readonly options: DeepOptions,
  ) {
    this.proven = (options.found ?? []).reduce((sum, { content, bytes }) => sum + (content === 'intact' ? bytes : 0), 0)
    this.starts = new Starts(FORMATS.filter(({ id }) => options.formats === null || options.formats.has(id)))
    this.blocks = blocksOf(areasOf(image, volumes, options.isWhole))
  }

  /** The next block that reaches beyond an offset. */
  next(skipTo: number): Looked | null {
    const { helpers } = this.options
    const hasHelp = helpers !== undefined && this.proven >= helpers.worthAfter
    const isSkipped = ({ at, bytes }: { at: number; bytes: number }) => at + bytes <= skipTo
    while (this.ahead[0] && isSkipped(this.ahead[0])) this.ahead.shift()
    while (this.ahead.length === 0 || (hasHelp && helpers.hasRoom && this.ahead.length < MAX_AHEAD)) {
      let next = this.blocks.next()
      while (!next.done && isSkipped(next.value)) next = this.blocks.next()
      if (next.done) break
      const looked = this.look(next.value, skipTo)
      this.ahead.push(looked)
      if (hasHelp) for (const question of looked.questions) if (isLong(question)) helpers.ask(question)
    }
    return this.ahead.shift() ?? null
  }

  private look({ at, bytes, end }: { at: number; bytes: number; end: number }, skipTo: number): Looked {
    const { image, volumes, starts } = this
    const block = blockAt(image, this.buffer, at, bytes)
    this.bytesRead += block.length
    const questions = Array.from(starts.in(block, Math.max(0, skipTo - at)), (within) => ({
      asks: 'file' as const,
      place: [at + within, end - at - within] as const,
      formats: starts.formatsAt(block, within).map(({ id }) => id),
      unitBytes: unitAt(volumes, at + within),
    }))
    return { at, bytes, questions, traces: this.tracesIn(block, at) }
  }

  private tracesIn(block: Uint8Array, from: number): number[] {
    const traces = volumeAt(this.volumes, from)?.fileSystem?.traces
    if (traces) return sectorsOf(block, from, (at) => traces.begins(block, at))
    if (this.places > MAX_PLACES) return []
    const places = sectorsOf(block, from, (at) => mayBeginVolume(block, at))
    this.places += places.length
    return places
  }
}

function sectorsOf(block: Uint8Array, from: number, isWanted: (at: number) => boolean): number[] {
  const places: number[] = []
  for (let at = 0; at + SECTOR_BYTES <= block.length; at += SECTOR_BYTES) if (isWanted(at)) places.push(from + at)
  return places
}

function* blocksOf(areas: readonly Extent[]): Generator<{ at: number; bytes: number; end: number }> {
  for (const [offset, length] of areas) {
    const end = offset + length
    for (let at = offset; at < end; at += BLOCK_BYTES) yield { at, bytes: Math.min(BLOCK_BYTES, end - at), end }
  }
}

/** Noise has some thousand places by chance at which a volume may seem to begin. */
const MAX_PLACES = 65_536

/** How many blocks are looked at ahead. */
const MAX_AHEAD = 64

/** Text is followed faster than it is asked for, and may seem to begin anywhere. */
const isLong = ({ formats }: { formats: readonly string[] }) => !formats.every((id) => TEXTS.has(id))
const TEXTS = new Set(['text', 'email', 'vcard', 'icalendar'])

/** Files that begin at places which were skipped before. Offsets in bytes. */
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

/** The end of the last contiguous item among these. */
const endOf = (found: readonly MediaItem[] = [], content: MediaItem['content']) =>
  found
    .filter((item) => item.content === content && item.extents.length === 1)
    .reduce((end, { extents: [first] }) => Math.max(end, first![0] + first![1]), 0)

function blockAt(image: ByteSource, buffer: Uint8Array, at: number, size: number): Uint8Array {
  if (!image.readInto) return image.read(at, size)
  return buffer.subarray(0, image.readInto(buffer.subarray(0, size), at))
}

/** A signature this short does not outweigh a file that parses from its beginning: it is in other data by chance. */
const isPoor = ({ whole, mime, extension }: Walk) =>
  isText(mime) ||
  (whole === 'partial' && !formatOfName(`x.${extension}`)?.signatures.some(([, mark]) => mark.length >= 3))

const isText = (mime: string | null) => mime?.startsWith('text/') === true || mime === 'message/rfc822'
