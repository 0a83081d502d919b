import { FORMATS, formatOfName } from '../files/formats/registry'
import type { Walk } from '../files/formats/format'
import type { FileSystem } from '../volumes/filesystems/file-system'
import type { Volume } from '../volumes/volumes'
import type { ByteSource } from '../sources/source'
import { areasOf } from './areas'
import type { MediaItem } from './item'
import { Starts, SECTOR_BYTES } from './starts'
import { carve, unitAt, unitsFromAt, itemOf, volumeAt } from './carve'

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
}

export interface DeepStep {
  /** everything before this offset of the image has been scanned, in bytes */
  readonly at: number
  readonly bytesRead: number
  readonly items: readonly MediaItem[]
  /** where an earlier file system of the same kind left traces, in bytes of the image */
  readonly traces: readonly number[]
}

/**
 * The deep scan: checks every sector for signatures of known formats and follows their structure. Yields its progress
 * and results after each block, so that the caller can stop and resume later.
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
        // A file that merely parses may hide the beginning of another; that one would begin at a cluster, as files do.
        if (isInOther && (start - unitsFromAt(volumes, start)) % unitAt(volumes, start) !== 0) continue
        const found = carve(image, [start, end - start], starts.formatsAt(block, within), unitAt(volumes, start))
        if (!found || (isInOther && isPoor(found.walk))) continue
        items.push(itemOf(found.walk, found.extents, volumes))
        // Inside a whole file nothing else begins; a broken one may contain the beginnings of others.
        if (found.walk.whole === 'intact') skipTo = Math.max(skipTo, start + found.walk.bytes)
        if (found.walk.whole === 'unverified') fitsTo = Math.max(fitsTo, start + found.walk.bytes)
      }
      yield { at: at + size, bytesRead, items, traces: tracesIn(block, at, fileSystem) }
    }
  }
}

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

function tracesIn(block: Uint8Array, from: number, fileSystem: FileSystem | null): number[] {
  const places: number[] = []
  if (fileSystem)
    for (let at = 0; at + SECTOR_BYTES <= block.length; at += SECTOR_BYTES)
      if (fileSystem.traces.begins(block, at)) places.push(from + at)
  return places
}

function blockAt(image: ByteSource, buffer: Uint8Array, at: number, size: number): Uint8Array {
  if (!image.readInto) return image.read(at, size)
  return buffer.subarray(0, image.readInto(buffer.subarray(0, size), at))
}

/** A signature this short does not outweigh a file that parses from its beginning: it is in other data by chance. */
const isPoor = ({ whole, mime, extension }: Walk) =>
  isText(mime) ||
  (whole === 'partial' && !formatOfName(`x.${extension}`)?.signatures.some(([, mark]) => mark.length >= 3))

const isText = (mime: string | null) => mime?.startsWith('text/') === true || mime === 'message/rfc822'
