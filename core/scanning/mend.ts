import { formatOfName } from '../files/formats/registry'
import { lengthOf, type Layout } from '../volumes/filesystems/file-system'
import type { Volume } from '../volumes/volumes'
import { Reader } from '../sources/reader'
import { piecesSource, type ByteSource, type Extent } from '../sources/source'
import { areasOf } from './areas'
import type { MediaItem } from './item'
import { Effort, measured, Spent } from './effort'
import { Continuations, joinPieces, onImage, without, type Joined } from './join'
import { type Carved, unitAt, itemOf } from './carve'

/** A broken file of which fewer bytes could be followed is not reported. */
const MIN_PARTIAL = 4096

/** recognised by statistics only, without a signature */
const isPlainText = ({ mime }: { mime: string | null }) => mime === 'text/plain'

/** Maximum number of broken files to reassemble; the rest is returned as found. */
const MAX_BROKEN = 5000

export interface MendOptions {
  readonly isWhole: boolean
  /** where the deep scan found traces, in bytes of the image */
  readonly traces: readonly number[]
  /** extents that other deleted files claim */
  readonly claimed: readonly Extent[]
}

/** How much all of it may read: so many bytes, and a part of a large medium; and how much of that goes to files that prove nothing. */
const effortOn = ({ size }: ByteSource) => 1024 * 1024 * 1024 + size / 16
const UNPROVABLE_PART = 0.25
/** The proven beginning of a broken file is no part of another; shortly before the break, nobody knows. */
const UNSURE_UNITS = 8

/** What became of a broken file. */
export interface Mended {
  readonly broken: MediaItem
  readonly mended: MediaItem | null
  readonly isKept: boolean
  /** places are left at which it was not tried to go on */
  readonly isUntried: boolean
}

/**
 * Tries to join fragments out of what nothing claims, after the whole image was scanned: first files that prove
 * themselves, each with what lies nearest, then with all else; then those that merely fit. Yields after each file, null where
 * it is tried again later; those that are still broken and too short to be of use are left out.
 */
export function* mend(
  image: ByteSource,
  volumes: readonly Volume[],
  items: readonly MediaItem[],
  options: MendOptions,
): Generator<Mended | null> {
  const areas = areasOf(image, volumes, options.isWhole)
  const laidOut = byTraces(image, volumes, items, options)
  // What was recognised as text by statistics may be a fragment of a structured file.
  const taken = [
    ...items.filter((item) => item.content !== 'partial' && !isPlainText(item) && !laidOut.has(item)),
    ...laidOut.values(),
  ].flatMap(({ extents }) => extents)
  const room = new Rooms(image, areas, taken, options.claimed)
  const isCovered = (item: MediaItem) =>
    taken.some(([offset, length]) => startOf(item) > offset && startOf(item) < offset + length)
  const ended = (broken: MediaItem, joined: Carved | null, isUntried: boolean): Mended => ({
    broken,
    mended: joined ? itemOf(joined.walk, joined.extents, volumes) : null,
    isKept: joined === null && broken.bytes >= MIN_PARTIAL && !isCovered(broken),
    isUntried,
  })
  for (const [item, laid] of laidOut) yield ended(item, laid, false)
  const broken = items
    .filter((item) => item.content === 'partial' && !laidOut.has(item))
    .sort((one, other) => other.bytes - one.bytes || startOf(one) - startOf(other))
  const provable = broken.filter((item) => formatOf(item)?.isProvable)
  const others = broken.filter((item) => !provable.includes(item))
  for (const [files, bytes] of [
    [provable, effortOn(image) * (1 - UNPROVABLE_PART)],
    [others, effortOn(image) * UNPROVABLE_PART],
  ] as const) {
    const effort = new Effort(bytes)
    let left = [...files]
    const still = new Map<MediaItem, boolean>()
    for (const isThorough of [false, true]) {
      const again: MediaItem[] = []
      for (const [index, item] of left.entries()) {
        const format = formatOf(item)
        const unitBytes = unitAt(volumes, startOf(item))
        effort.begin((left.length - index) * (isThorough ? 1 : 2))
        const joined =
          format && index < MAX_BROKEN
            ? joinPieces(room.of(unitBytes), startOf(item), format, effort, isThorough)
            : format && 'spent'
        if (joined && joined !== 'spent') {
          room.take(joined)
          still.delete(item)
          yield ended(item, joined, false)
        } else {
          still.set(item, joined === 'spent')
          if (joined === 'spent' || format?.isProvable) again.push(item)
          yield null
        }
      }
      left = again
    }
    for (const [item, isUntried] of still) yield ended(item, null, isUntried)
    room.keep(
      [...still.keys()]
        .filter((item) => formatOf(item)?.isProvable)
        .map((item) => sureOf(item, unitAt(volumes, startOf(item)))),
    )
  }
}

const startOf = ({ extents: [first] }: MediaItem) => first![0]
const formatOf = ({ extension }: MediaItem) => formatOfName(`x.${extension}`)
const sureOf = (item: MediaItem, unitBytes: number): Extent => [
  startOf(item),
  Math.max(0, item.bytes - UNSURE_UNITS * unitBytes),
]

/** What is free for fragments; computed again only after something was joined. */
class Rooms {
  private readonly rooms = new Map<number, { free: readonly Extent[]; continuations: Continuations }>()

  constructor(
    private readonly image: ByteSource,
    private readonly areas: readonly Extent[],
    private readonly taken: Extent[],
    private readonly claimed: readonly Extent[],
  ) {}

  of(unitBytes: number) {
    const { image, claimed } = this
    const continuations = this.rooms.get(unitBytes)?.continuations ?? new Continuations(unitBytes)
    const free = this.rooms.get(unitBytes)?.free ?? without(this.areas, this.taken, unitBytes)
    this.rooms.set(unitBytes, { free, continuations })
    return { image, free, unitBytes, claimed, continuations }
  }

  take({ extents }: Joined): void {
    this.keep(extents)
  }

  keep(extents: readonly Extent[]): void {
    this.taken.push(...extents.filter(([, length]) => length > 0))
    this.rooms.clear()
  }
}

/** Files whose fragments the traces of an earlier file system give. */
function byTraces(
  image: ByteSource,
  volumes: readonly Volume[],
  items: readonly MediaItem[],
  options: MendOptions,
): Map<MediaItem, Carved> {
  const laidOut = new Map<MediaItem, Carved>()
  const layoutsOf = volumes.map(({ shape, fileSystem }) => {
    const own = options.traces.filter((place) => place >= shape.offset && place < shape.offset + shape.bytes)
    return own.length > 0 ? fileSystem?.traces.layouts(own) : undefined
  })
  if (layoutsOf.every((layouts) => layouts === undefined)) return laidOut
  const proven = items.filter(({ content }) => content === 'intact').flatMap(({ extents }) => extents)
  const effort = new Effort(effortOn(image))
  const open = items.filter(({ content, record }) => content !== 'intact' && record === 'none')
  for (const [index, item] of open.entries()) {
    const layouts = layoutsOf[volumes.findIndex(({ shape }) => shape.index === item.volume)]
    if (!layouts) continue
    effort.begin(open.length - index)
    const laid = byLayouts(
      measured(image, effort),
      layouts(startOf(item), item.content === 'partial' ? item.bytes : Infinity),
      item,
      unitAt(volumes, startOf(item)),
    )
    // A list may be older than a whole file that is in one of its places now.
    const isOlder = laid?.walk.whole === 'unverified' && touch(laid.extents, proven)
    if (laid && !isOlder) laidOut.set(item, laid)
  }
  return laidOut
}

const touch = (some: readonly Extent[], others: readonly Extent[]) =>
  some.some(([from, length]) => others.some(([at, long]) => at < from + length && at + long > from))

/** A file whose fragments its file system's traces give: the first of them that proves it, or that parses. */
function byLayouts(image: ByteSource, layouts: Iterable<Layout>, item: MediaItem, unitBytes: number): Carved | null {
  const format = formatOf(item)
  if (!format) return null
  let fits: Carved | null = null
  try {
    for (const { extents, isTold, more } of layouts) {
      const walk = format.walk(new Reader(piecesSource(image, extents), unitBytes))
      if (!walk) continue
      const carved = { walk, extents: onImage(extents, [[0, walk.bytes]]) }
      // The lists tried so far do not reach its end.
      const goesOn = walk.bytes >= lengthOf(extents) - unitBytes || (isTold && walk.whole === 'partial')
      const longer = goesOn ? byLayouts(image, more(), item, unitBytes) : null
      const best = longer ?? carved
      if (best.walk.whole === 'partial' || best.walk.bytes <= extents[0]![1]) continue
      if (best.walk.whole === 'intact') return best
      // A file that parses without proof is accepted where a trace records it, or where it did not parse contiguously.
      if (isTold || item.content === 'partial') fits ??= best
    }
  } catch (error) {
    if (!(error instanceof Spent)) throw error
  }
  return fits
}
