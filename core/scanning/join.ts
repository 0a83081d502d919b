import type { Format, Walk } from '../files/formats/format'
import { Reader } from '../sources/reader'
import { piecesSource, type ByteSource, type Extent } from '../sources/source'
import { measured, Spent, type Effort } from './effort'

/** How far around its first fragment the rest of a file is searched for, in units nearby and in bytes at most. */
const NEAR_UNITS = 128
const FAR_BYTES = 64 * 1024 * 1024
/** How many cuts before the place where a file breaks are tried: at every place, and at places nearby. */
const NEAR_CUTS = 3
const MAX_CUTS = 64
const MAX_PIECE_BYTES = 256 * 1024 * 1024
/** Small reads: a try fails within a few bytes, mostly. */
const TRY_WINDOW_BYTES = 4096

export interface Joined {
  readonly walk: Walk
  readonly extents: readonly Extent[]
}

/** Where the rest of files may lie. Offsets and sizes in bytes of the image. */
export interface Room {
  readonly image: ByteSource
  /** what no whole item and no file system claims, in order */
  readonly free: readonly Extent[]
  readonly unitBytes: number
  /** extents that other deleted files claim */
  readonly claimed?: readonly Extent[]
  /** which units may continue a file of a format, as far as that was asked */
  readonly continuations?: Continuations
}

/**
 * Searches the rest of a broken file: first contiguously, then around what other deleted files claim, then as its own
 * structure says that it was cut, then cut after each possible unit and continued elsewhere: with the nearest cuts at every
 * place, then (where `isThorough`) with earlier cuts at the nearest places. A cut and a place are returned only where the
 * structure proves the join; a file that continues around something in use also where it merely parses. `spent`: not every
 * place was tried.
 */
export function joinPieces(
  room: Room,
  start: number,
  format: Format,
  effort: Effort,
  isThorough = true,
): Joined | 'spent' | null {
  try {
    return joinedBy({ ...room, image: measured(room.image, effort) }, start, format, isThorough)
  } catch (error) {
    if (error instanceof Spent) return 'spent'
    throw error
  }
}

function joinedBy(room: Room, start: number, format: Format, isThorough: boolean): Joined | 'spent' | null {
  const { image, free, unitBytes, claimed = [] } = room
  const onward = restFrom(free, start)
  if (onward.length === 0) return null
  const broken = format.walk(new Reader(piecesSource(image, onward), unitBytes))
  if (!broken) return null
  // Around allocated clusters it continues as its own lengths say: enough to be reported, as unverified.
  if (broken.whole !== 'partial')
    return believed(format, { walk: broken, extents: onImage(onward, [[0, broken.bytes]]) })
  const others = claimed.filter(([offset, length]) => offset > start || offset + length <= start)
  const around = others.length > 0 ? restFrom(without(onward, others, unitBytes), start) : []
  const beside = around.length > 1 ? format.walk(new Reader(piecesSource(image, around), unitBytes)) : null
  if (beside && beside.whole !== 'partial')
    return believed(format, { walk: beside, extents: onImage(around, [[0, beside.bytes]]) })
  const told = byOwnGaps(image, onward, format, unitBytes)
  if (told) return told
  // Where a walk cannot resume in the middle, each further place would be tried from the start.
  if (broken.resume.length === 0) return null
  return bySearch(room, { start, onward, broken, format }, isThorough)
}

interface Broken {
  readonly start: number
  readonly onward: readonly Extent[]
  readonly broken: Walk
  readonly format: Format
}

function bySearch(room: Room, file: Broken, isThorough: boolean): Joined | 'spent' | null {
  const { unitBytes } = room
  const lastCut = Math.floor(file.broken.breaksAt / unitBytes)
  const firstCut = Math.max(1, Math.ceil(Math.max(file.broken.provenTo, 1) / unitBytes), lastCut - MAX_CUTS)
  const nearCut = Math.max(firstCut, lastCut - NEAR_CUTS + 1)
  const near = file.start + lastCut * unitBytes
  for (const place of isThorough ? farPlaces(room, near) : nearPlaces(room, near)) {
    const joined = continued(room, file, place, [lastCut, nearCut])
    if (joined) return joined
  }
  if (!isThorough) return null
  for (const place of nearPlaces(room, near)) {
    const joined = continued(room, file, place, [nearCut - 1, firstCut])
    if (joined) return joined
  }
  return null
}

/** The file with its rest at a place, cut after so many units: from the last of these to the first. */
function continued(
  { image, free, unitBytes, continuations }: Room,
  { onward, broken, format }: Broken,
  place: number,
  [lastCut, firstCut]: readonly [number, number],
): Joined | null {
  if (lastCut < firstCut || continuations?.has(format, place, image) === false) return null
  const rest = restFrom(free, place)
  for (let cut = lastCut; cut >= firstCut; cut--) {
    const first = onImage(onward, [[0, cut * unitBytes]])
    // What belongs to the first fragment cannot be the second too.
    if (first.some(([offset, length]) => place >= offset && place < offset + length)) continue
    const from = broken.resume.findLast(({ at }) => at <= cut * unitBytes)
    const walk = format.walk(new Reader(piecesSource(image, [...first, ...rest]), unitBytes, TRY_WINDOW_BYTES), from)
    if (walk?.whole === 'intact' && walk.bytes > cut * unitBytes)
      return { walk, extents: onImage([...first, ...rest], [[0, walk.bytes]]) }
  }
  return null
}

/** Remembers which units may continue a file of a format: each is looked at once for all broken files. */
export class Continuations {
  private readonly known = new Map<Format, Map<number, boolean>>()

  constructor(private readonly unitBytes: number) {}

  has(format: Format, place: number, image: ByteSource): boolean {
    if (!format.mayContinue) return true
    const known = this.known.get(format) ?? new Map<number, boolean>()
    this.known.set(format, known)
    let may = known.get(place)
    if (may === undefined) {
      may = format.mayContinue(image.read(place, this.unitBytes))
      known.set(place, may)
    }
    return may
  }
}

const MAX_LOOSE_PIECES = 2
/** How many gaps are tried that a file's own structure gives. */
const MAX_GAPS = 64

/**
 * Around one allocated range a file that parses may continue; with more fragments, only where its structure supports
 * it.
 */
const believed = (format: Format, joined: Joined): Joined | null =>
  joined.walk.whole === 'intact' || !format.isLoose || joined.extents.length <= MAX_LOOSE_PIECES ? joined : null

/**
 * The gap as the file's own structure gives it: the first of its answers that parses, since the likeliest come first.
 */
function byOwnGaps(image: ByteSource, onward: readonly Extent[], format: Format, unitBytes: number): Joined | null {
  const length = onward.reduce((sum, [, bytes]) => sum + bytes, 0)
  if (!format.gaps) return null
  let tries = 0
  for (const { cut, at } of format.gaps(new Reader(piecesSource(image, onward), unitBytes))) {
    if (++tries > MAX_GAPS) break
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

/** The units nearest to a place, and the beginnings of all free ranges. */
function* nearPlaces({ free, unitBytes }: Room, near: number): Iterable<number> {
  yield* unitsAround(free, near, unitBytes, [1, NEAR_UNITS])
  const byDistance = [...free].sort((a, b) => Math.abs(a[0] - near) - Math.abs(b[0] - near))
  for (const [offset] of byDistance) yield offset
}

/** The same, and all other units around. */
function* farPlaces(room: Room, near: number): Iterable<number> {
  yield* nearPlaces(room, near)
  yield* unitsAround(room.free, near, room.unitBytes, [NEAR_UNITS + 1, Math.floor(FAR_BYTES / room.unitBytes)])
}

function* unitsAround(
  free: readonly Extent[],
  near: number,
  unitBytes: number,
  [from, to]: readonly [number, number],
): Iterable<number> {
  for (let unit = from; unit <= to; unit++)
    for (const place of [near + unit * unitBytes, near - unit * unitBytes]) if (isIn(free, place)) yield place
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
