import type { Format, Walk } from '../files/formats/format'
import type { Volume } from '../volumes/volumes'
import { Reader } from '../sources/reader'
import { sliceSource, type ByteSource, type Extent } from '../sources/source'
import type { MediaItem } from './item'
import { SECTOR_BYTES } from './starts'

/** A file followed from its start, and its extents on the image. */
export interface Carved {
  readonly walk: Walk
  readonly extents: readonly Extent[]
}

/** Follows each format whose signature is at this place, contiguously. */
export function carve(
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

/** The volume that an offset of the image is in. */
export function volumeAt(volumes: readonly Volume[], offset: number): Volume | undefined {
  const here = volumes.filter(({ shape }) => offset >= shape.offset && offset < shape.offset + shape.bytes)
  // One that was found may lie within one that a table names.
  return here.find(({ fileSystem }) => fileSystem !== null) ?? here[0]
}

/** Where the allocation units of the volume at an offset begin, in bytes of the image. */
export function unitsFromAt(volumes: readonly Volume[], offset: number): number {
  const volume = volumeAt(volumes, offset)
  return volume?.fileSystem?.unitsFrom ?? volume?.shape.offset ?? 0
}

/** The allocation unit of the volume at an offset, in bytes; one sector outside every volume. */
export function unitAt(volumes: readonly Volume[], offset: number): number {
  const volume = volumeAt(volumes, offset)
  return volume?.fileSystem?.unitBytes ?? SECTOR_BYTES
}

const JOINED = {
  intact: 'fragments reassembled; the structure proves the order',
  unverified: 'fragmented, as its own lengths and the data between show',
  partial: 'fragmented',
}

/** A file without a record is named by its offset. */
const keyOfContent = (start: number) => `c${start.toString(16)}`

/** A carved file as an item. */
export function itemOf(walk: Walk, extents: readonly Extent[], volumes: readonly Volume[]): MediaItem {
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
