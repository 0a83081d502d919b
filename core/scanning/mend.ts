import { formatOfName } from '../files/formats/registry'
import { lengthOf, type Layout } from '../volumes/filesystems/file-system'
import type { Volume } from '../volumes/volumes'
import { Reader } from '../sources/reader'
import { piecesSource, type ByteSource, type Extent } from '../sources/source'
import { areasOf } from './areas'
import type { MediaItem } from './item'
import { joinPieces, onImage, Tries, without } from './join'
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

/**
 * Tries to join fragments out of what nothing claims, after the whole image was scanned. Yields after each file; those
 * that are still broken and too short to be of use are left out.
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
      // A list may be older than a whole file that is in one of its places now.
      const isOlder = laid?.walk.whole === 'unverified' && touch(laid.extents, proven)
      if (laid && !isOlder) laidOut.set(item, laid)
    }
  // What was recognised as text by statistics may be a fragment of a structured file.
  const taken = [
    ...items.filter((item) => item.content !== 'partial' && !isPlainText(item) && !laidOut.has(item)),
    ...laidOut.values(),
  ].flatMap(({ extents }) => extents)
  // Free ranges are computed again only after something was joined.
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

/** A file whose fragments its file system's traces give: the first of them that proves it, or that parses. */
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
    // The lists tried so far do not reach its end.
    const goesOn = walk.bytes >= lengthOf(extents) - unitBytes || (isTold && walk.whole === 'partial')
    const longer = goesOn ? byLayouts(image, more(), item, unitBytes, budget) : null
    const best = longer ?? carved
    if (best.walk.whole === 'partial' || best.walk.bytes <= extents[0]![1]) continue
    if (best.walk.whole === 'intact') return best
    // A file that parses without proof is accepted where a trace records it, or where it did not parse contiguously.
    if (isTold || item.content === 'partial') fits ??= best
  }
  return fits
}
