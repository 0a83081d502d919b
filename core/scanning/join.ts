import type { Format, Walk } from '../files/formats/format'
import { Reader } from '../sources/reader'
import { piecesSource, type ByteSource, type Extent } from '../sources/source'

/** How many places are tried for all files together, and at most and at least for one, before joining gives up. */
const MAX_TRIES_IN_ALL = 200_000
const MAX_TRIES = 4000
const MIN_TRIES = 200
/** How far from its first fragment units are tried one by one. */
const NEAR_UNITS = 128
const MAX_CUTS = 64
const MAX_PIECE_BYTES = 256 * 1024 * 1024

/** The tries left for one medium: with thousands of broken files, not every place can be tried for each. */
export class Tries {
  /** for one file */
  readonly each: number
  private left = MAX_TRIES_IN_ALL

  constructor(files: number) {
    this.each = Math.max(MIN_TRIES, Math.min(MAX_TRIES, Math.floor(MAX_TRIES_IN_ALL / Math.max(1, files))))
  }

  /** takes this many tries; false where fewer are left */
  take(cost = 1): boolean {
    if (this.left < cost) return false
    this.left -= cost
    return true
  }
}

export interface Joined {
  readonly walk: Walk
  readonly extents: readonly Extent[]
}

/**
 * Searches the rest of a broken file in what no whole item and no file system claims (`free`, in order): first
 * contiguously, then around what other deleted files claim (`claimed`), then as its own structure says that it was cut,
 * then cut after each possible unit and continued at near-by units and at the beginning of every free range. A cut and
 * a place are returned only where the structure proves the join; a file that continues around something in use also
 * where it merely parses. Sizes in bytes.
 */
export function joinPieces(
  image: ByteSource,
  start: number,
  free: readonly Extent[],
  format: Format,
  unitBytes: number,
  budget: Tries,
  claimed: readonly Extent[] = [],
): Joined | null {
  const onward = restFrom(free, start)
  if (onward.length === 0) return null
  const source = piecesSource(image, onward)
  const broken = format.walk(new Reader(source, unitBytes))
  if (!broken) return null
  // Around allocated clusters it continues as its own lengths say: enough to be reported, as unverified.
  if (broken.whole !== 'partial')
    return believed(format, { walk: broken, extents: onImage(onward, [[0, broken.bytes]]) })
  const others = claimed.filter(([offset, length]) => offset > start || offset + length <= start)
  const around = others.length > 0 ? restFrom(without(onward, others, unitBytes), start) : []
  const beside = around.length > 1 ? format.walk(new Reader(piecesSource(image, around), unitBytes)) : null
  if (beside && beside.whole !== 'partial')
    return believed(format, { walk: beside, extents: onImage(around, [[0, beside.bytes]]) })
  const told = byOwnGaps(image, onward, format, unitBytes, budget)
  if (told) return told
  // Where a walk cannot resume in the middle, each further place would be tried from the start.
  if (broken.resume.length === 0) return null
  const lastCut = Math.floor(broken.breaksAt / unitBytes)
  const firstCut = Math.max(1, Math.ceil(Math.max(broken.provenTo, 1) / unitBytes), lastCut - MAX_CUTS)
  let tries = 0
  for (const place of placesToGoOn(free, start + lastCut * unitBytes, unitBytes)) {
    const rest = restFrom(free, place)
    for (let cut = lastCut; cut >= firstCut; cut--) {
      if (++tries > budget.each || !budget.take()) return null
      const first = onImage(onward, [[0, cut * unitBytes]])
      // What belongs to the first fragment cannot be the second too.
      if (first.some(([offset, length]) => place >= offset && place < offset + length)) continue
      const from = broken.resume.findLast(({ at }) => at <= cut * unitBytes)
      const walk = format.walk(new Reader(piecesSource(image, [...first, ...rest]), unitBytes), from)
      if (walk?.whole === 'intact' && walk.bytes > cut * unitBytes)
        return { walk, extents: onImage([...first, ...rest], [[0, walk.bytes]]) }
    }
  }
  return null
}

const MAX_LOOSE_PIECES = 2
/** How far ahead the other end of a file is searched for, in bytes. */
const GAPS_COST = 100

/**
 * Around one allocated range a file that parses may continue; with more fragments, only where its structure supports
 * it.
 */
const believed = (format: Format, joined: Joined): Joined | null =>
  joined.walk.whole === 'intact' || !format.isLoose || joined.extents.length <= MAX_LOOSE_PIECES ? joined : null

/**
 * The gap as the file's own structure gives it: the first of its answers that parses, since the likeliest come first.
 */
function byOwnGaps(
  image: ByteSource,
  onward: readonly Extent[],
  format: Format,
  unitBytes: number,
  budget: Tries,
): Joined | null {
  const length = onward.reduce((sum, [, bytes]) => sum + bytes, 0)
  if (!format.gaps || !budget.take(GAPS_COST)) return null
  let tries = 0
  for (const { cut, at } of format.gaps(new Reader(piecesSource(image, onward), unitBytes))) {
    if (++tries > MAX_CUTS || !budget.take()) break
    const pieces = onImage(onward, [
      [0, cut],
      [at, length - at],
    ])
    const walk = format.walk(new Reader(piecesSource(image, pieces), unitBytes))
    if (walk && walk.whole !== 'partial' && walk.bytes > cut)
      return { walk, extents: onImage(pieces, [[0, walk.bytes]]) }
  }
  return null
}

function* placesToGoOn(free: readonly Extent[], near: number, unitBytes: number): Iterable<number> {
  for (let unit = 1; unit <= NEAR_UNITS; unit++)
    for (const place of [near + unit * unitBytes, near - unit * unitBytes]) if (isIn(free, place)) yield place
  const byDistance = [...free].sort((a, b) => Math.abs(a[0] - near) - Math.abs(b[0] - near))
  for (const [offset] of byDistance) yield offset
}

/** whether a place is in one of the sorted ranges */
function isIn(stretches: readonly Extent[], place: number): boolean {
  let low = 0
  let high = stretches.length - 1
  while (low <= high) {
    const middle = (low + high) >> 1
    const [offset, length] = stretches[middle]!
    if (place < offset) high = middle - 1
    else if (place >= offset + length) low = middle + 1
    else return true
  }
  return false
}

function restFrom(free: readonly Extent[], start: number): Extent[] {
  const rest: Extent[] = []
  let bytes = 0
  for (const [offset, length] of free) {
    if (offset + length <= start || bytes > MAX_PIECE_BYTES) continue
    const from = Math.max(offset, start)
    if (rest.length === 0 && from !== start) return []
    rest.push([from, offset + length - from])
    bytes += offset + length - from
  }
  return rest
}

/** Ranges of a space as extents of the image that the space is cut from. */
export function onImage(space: readonly Extent[], within: readonly Extent[]): Extent[] {
  const found: Extent[] = []
  for (const [offset, length] of within) {
    let skip = offset
    let left = length
    for (const [from, long] of space) {
      if (skip >= long) {
        skip -= long
        continue
      }
      const part = Math.min(long - skip, left)
      if (part <= 0) break
      const last = found.at(-1)
      if (last && last[0] + last[1] === from + skip) found[found.length - 1] = [last[0], last[1] + part]
      else found.push([from + skip, part])
      left -= part
      skip = 0
      if (left === 0) break
    }
  }
  return found
}

/** Ranges without those that are taken, cut to whole units; all sorted by offset. */
export function without(areas: readonly Extent[], taken: readonly Extent[], unitBytes: number): Extent[] {
  const sorted = [...taken].sort((a, b) => a[0] - b[0])
  const left: Extent[] = []
  let next = 0
  for (const [offset, length] of areas) {
    const end = offset + length
    let at = offset
    while (next < sorted.length && sorted[next]![0] + sorted[next]![1] <= at) next++
    for (let index = next; index < sorted.length && sorted[index]![0] < end; index++) {
      const [from, long] = sorted[index]!
      if (from > at) left.push([at, from - at])
      // The rest of a file's last unit belongs to it.
      at = Math.max(at, offset + Math.ceil((from + long - offset) / unitBytes) * unitBytes)
    }
    if (at < end) left.push([at, end - at])
  }
  return left
}
