import { Reader } from '../sources/reader'
import type { ByteSource, Extent } from '../sources/source'
import type { FileSystem } from './filesystems/file-system'
import { LUKS, type Mark } from './marks'
import { FILE_SYSTEMS, recognise } from './recognise'

/** A volume that no table names: with its file system, or encrypted, with its mark. */
export interface LostVolume {
  readonly extent: Extent
  readonly fileSystem: FileSystem | null
  readonly mark: Mark | null
}

const SECTOR_BYTES = 512
/** Up to so many bytes every sector is looked at; on larger media those near plausible boundaries. */
const MAX_EVERY_SECTOR = 256 * 1024 * 1024
const BLOCK_BYTES = 1024 * 1024
/** Boundaries of partitions: whole mebibytes; whole tracks of 63 sectors in cylinders of 255 of them, as older tools did. */
const MEBIBYTE = 1024 * 1024
const [TRACK, CYLINDER] = [63 * SECTOR_BYTES, 255 * 63 * SECTOR_BYTES]
/** What is looked at behind a boundary: boot sectors, their copies in sectors 6 and 12, superblocks; before it, the copy of the volume there. */
const NEAR_BYTES = 8192
/** On a disk with moving heads each is a seek. */
const MAX_BOUNDARIES = 1024
/** The last volume of a range may end anywhere before its end. */
const TAIL_BYTES = 4 * MEBIBYTE
const MAX_CANDIDATES = 256

/**
 * Looks for volumes in ranges that no known volume covers: by their boot sectors and superblocks, or copies of them, at every
 * plausible boundary, or at `places` (in bytes of the image). Copies and journals give several places for one volume: the place is
 * taken from which most files can be read, with the fewest faults.
 */
export function lostVolumes(
  image: ByteSource,
  ranges: readonly Extent[],
  places: Iterable<number> = marksIn(image, ranges),
): LostVolume[] {
  const reader = new Reader(image)
  const tried = new Set<string>()
  const candidates: (LostVolume & { worth: number })[] = []
  const locked: LostVolume[] = []
  for (const at of places) {
    // The second header of version 2 stands elsewhere: what looks for it is asked only where the first is.
    const mark = reader.is(at, 'LUKS') ? LUKS.find(({ isAt }) => isAt(reader, at, image.size)) : undefined
    const range = mark && ranges.find(([from, length]) => at >= from && at < from + length)
    if (range && locked.length < MAX_CANDIDATES)
      locked.push({ extent: [at, range[0] + range[1] - at], fileSystem: null, mark })
    for (const [offset, bytes] of FILE_SYSTEMS.flatMap((format) => format.startsAt(reader, at))) {
      const name = `${offset} ${bytes}`
      const isOpen = ranges.some(([from, length]) => offset >= from && offset < from + length)
      if (!isOpen || bytes <= 0 || tried.has(name) || tried.size >= MAX_CANDIDATES) continue
      tried.add(name)
      const length = Math.min(bytes, image.size - offset)
      const fileSystem = recognise(image, offset, length)
      if (fileSystem?.bytes !== bytes) continue
      const files = filesOf(fileSystem)
      const faults = fileSystem.warnings.length
      // A copy of a superblock alone may be in a journal; a volume that was just made has no files, and no faults.
      if (files + 1 >= faults)
        candidates.push({ extent: [offset, length], fileSystem, mark: null, worth: (files + 1) / (1 + faults) })
    }
  }
  const found: LostVolume[] = []
  for (const { worth: _, ...one } of candidates.sort((one, other) => other.worth - one.worth))
    if (!found.some((other) => overlap(other.extent, one.extent))) found.push(one)
  return withLocked(found, locked).sort((one, other) => one.extent[0] - other.extent[0])
}

/** An encrypted volume does not say where it ends: it ends where the next begins. */
function withLocked(found: readonly LostVolume[], locked: readonly LostVolume[]): LostVolume[] {
  const begins = [...found, ...locked].map(({ extent: [at] }) => at)
  const ended = locked.map(({ extent: [at, length], ...more }): LostVolume => {
    const next = Math.min(at + length, ...begins.filter((one) => one > at))
    return { ...more, extent: [at, next - at] }
  })
  const isInside = ({ extent: [at] }: LostVolume) =>
    found.some(({ extent: [from, length] }) => at >= from && at < from + length)
  return [...found, ...ended.filter((one) => !isInside(one))]
}

const overlap = ([one, length]: Extent, [other, long]: Extent) => one < other + long && other < one + length

/** How many files there are, of the first that are read. */
function filesOf(fileSystem: FileSystem): number {
  let files = 0
  for (const { bytes } of fileSystem.files()) if (bytes > 0 && ++files >= ENOUGH_FILES) break
  return files
}

const ENOUGH_FILES = 1000

/** The sectors that may begin a volume. */
function* marksIn(image: ByteSource, ranges: readonly Extent[]): Iterable<number> {
  for (const [offset, length] of probesIn(ranges)) {
    const block = image.read(offset, length)
    for (let at = 0; at + SECTOR_BYTES <= block.length; at += SECTOR_BYTES)
      if (mayBeginVolume(block, at)) yield offset + at
  }
}

/** Whether a sector of a block looks like the first of a volume, or a copy of it. */
export const mayBeginVolume = (block: Uint8Array, at: number) =>
  isBoot(block, at) || isSuper(block, at) || isLuks(block, at)

const isBoot = (block: Uint8Array, at: number) => block[at + 510] === 0x55 && block[at + 511] === 0xaa
const isLuks = (block: Uint8Array, at: number) => block[at] === 0x4c && block[at + 4] === 0xba && block[at + 5] === 0xbe
const isSuper = (block: Uint8Array, at: number) => block[at + 56] === 0x53 && block[at + 57] === 0xef

function* probesIn(ranges: readonly Extent[]): Iterable<Extent> {
  const bytes = ranges.reduce((sum, [, length]) => sum + length, 0)
  for (const [offset, length] of ranges) {
    const end = offset + length
    if (bytes <= MAX_EVERY_SECTOR) {
      for (let at = offset; at < end; at += BLOCK_BYTES) yield [at, Math.min(BLOCK_BYTES, end - at)]
      continue
    }
    yield [offset, Math.min(BLOCK_BYTES, length)]
    for (const [first, least] of [
      [0, MEBIBYTE],
      [TRACK, CYLINDER],
    ] as const) {
      // The first of them one by one; further on, as many as there may be, evenly.
      let step = least
      let at = first + Math.ceil(Math.max(0, offset - first) / least) * least
      for (let count = 0; at < end; at += step) {
        if (++count === MAX_BOUNDARIES) step = Math.max(1, Math.ceil((end - at) / MAX_BOUNDARIES / least)) * least
        const from = Math.max(offset, at - SECTOR_BYTES)
        yield [from, Math.min(NEAR_BYTES + at - from, end - from)]
      }
    }
    yield [Math.max(offset, end - TAIL_BYTES), Math.min(length, TAIL_BYTES)]
  }
}
