import type { FileSystem } from './filesystems/file-system'
import { recognise } from './recognise'
import type { ByteSource, Extent } from '../sources/source'
import type { ScanWarning, Verdict, VolumeShape } from './filesystems/volume-shape'
import { lostVolumes } from './lost-volumes'
import type { OpenedVolume } from './luks/opened'
import { LVM, type Mark } from './marks'
import { readVolumeGroup } from './lvm/volume-group'
import { lostIn, markAt, ofGroup, onceOpened, verdictOf, type Said } from './verdict'
import { readGpt } from './partitions/gpt'
import { readMbr } from './partitions/mbr'

/** A volume of an image, with its file system where it is a known one. */
export interface Volume {
  readonly shape: VolumeShape
  readonly fileSystem: FileSystem | null
  /** what its map calls in use and no record that can be read claims, where records are missing; in bytes of the image */
  readonly unclaimed?: readonly Extent[]
  /** the header before it, where a passphrase has opened it; in bytes of the image */
  readonly header?: Extent
}

const SECTOR_SIZES = [512, 4096] as const

/**
 * The volumes of an image: those of its partition table, or the image itself where there is no table; then those that no
 * table names, where nothing else is known of a place. `opened`: encrypted volumes that the image gives decrypted.
 */
export function findVolumes(
  image: ByteSource,
  opened: readonly OpenedVolume[] = [],
): { volumes: Volume[]; warnings: ScanWarning[] } {
  const { scheme, places, warnings } = partitionsOf(image)
  const hidden = opened.filter(({ at }) => !places.some(([offset]) => offset === at))
  const named = [
    ...places.flatMap((place) => namedAt(image, { place, scheme }, opened)),
    // What was opened of a volume that no table names.
    ...hidden.flatMap(({ at, offset, bytes }) =>
      namedAt(image, { place: [at, offset + bytes - at], scheme: 'found' }, opened),
    ),
  ]
  const lost = lostVolumes(image, openRanges(image, named))
  const volumes: Volume[] = []
  const add = (one: Parameters<typeof volumeOf>[1], extent: Extent, said: Said) =>
    volumes.push(volumeOf(volumes.length, one, extent, said))
  for (const one of named) {
    const { extent, inner, fileSystem, mark } = one
    const [offset, bytes] = extent
    const inside = lost.filter(({ extent: [at] }) => at >= offset && at < offset + bytes)
    const seen = inside.length > 0 && !fileSystem ? lostIn(inside.length) : verdictOf(image, extent, fileSystem, mark)
    const said =
      one.said ?? (one.name === null ? seen : { ...seen, says: `Logical volume “${one.name}”. ${seen.says}` })
    // A partition may be longer than its file system: what is found behind that is no part of it.
    const own: Extent = fileSystem && inside[0] ? [offset, inside[0].extent[0] - offset] : extent
    add(one, own, inner ? onceOpened(inner, said) : said)
  }
  for (const { extent, fileSystem, mark } of lost)
    add({ scheme: 'found', fileSystem, name: null, header: null }, extent, verdictOf(image, extent, fileSystem, mark))
  return { volumes, warnings: [...warnings] }
}

/** What is at a place: a volume, or a member of a volume group with the logical volumes that lie in one piece on it. */
function namedAt(
  image: ByteSource,
  { place, scheme, name = null }: Pick<Named, 'scheme'> & { place: Extent; name?: string | null },
  opened: readonly OpenedVolume[],
): Named[] {
  const inner = opened.find(({ at }) => at === place[0]) ?? null
  const extent: Extent = inner ? [inner.offset, inner.bytes] : place
  const fileSystem = recognise(image, ...extent)
  const header: Extent | null = inner ? [place[0], inner.offset - place[0]] : null
  const own = { scheme, name, extent, header, inner, fileSystem, mark: markAt(image, extent), said: null }
  // A volume group inside of another's volume is nobody's.
  const group = own.mark === LVM && name === null ? readVolumeGroup(image, extent) : null
  if (!group) return [own]
  const logical = group.volumes.flatMap(({ name: of, pieces }) =>
    pieces?.length === 1 ? namedAt(image, { place: pieces[0]!, scheme, name: of }, opened) : [],
  )
  return [{ ...own, said: ofGroup(group) }, ...logical]
}

/**
 * Volumes that no table names and that begin at places (in bytes of the image) where nothing is known yet, numbered on from those
 * that are: what a search at the usual boundaries of a large medium has missed.
 */
export function furtherVolumes(image: ByteSource, volumes: readonly Volume[], places: readonly number[]): Volume[] {
  const closed = volumes.filter(({ shape, fileSystem }) => fileSystem !== null || IS_KNOWN.has(shape.verdict))
  const open = rangesBetween(
    image,
    closed.flatMap(({ shape, header }): Extent[] => [[shape.offset, shape.bytes], ...(header ? [header] : [])]),
  )
  return lostVolumes(image, open, places).map(({ extent, fileSystem, mark }, at) => {
    const lost = { scheme: 'found', fileSystem, name: null, header: null } as const
    return volumeOf(volumes.length + at, lost, extent, verdictOf(image, extent, fileSystem, mark))
  })
}

function volumeOf(
  index: number,
  { scheme, fileSystem, name, header }: Pick<Named, 'scheme' | 'fileSystem' | 'name' | 'header'>,
  [offset, bytes]: Extent,
  said: Said,
): Volume {
  const [kind, label] = [fileSystem?.kind ?? null, fileSystem?.label ?? name]
  return {
    shape: { index, scheme, fileSystem: kind, offset, bytes, label, lock: null, ...said },
    fileSystem,
    ...(header ? { header } : {}),
  }
}

const IS_KNOWN: ReadonlySet<Verdict> = new Set<Verdict>(['known', 'encrypted', 'container'])

interface Named {
  readonly scheme: VolumeShape['scheme']
  /** of a logical volume */
  readonly name: string | null
  /** where its data is: elsewhere only where it was encrypted */
  readonly extent: Extent
  readonly header: Extent | null
  readonly inner: OpenedVolume | null
  readonly fileSystem: FileSystem | null
  readonly mark: Mark | null
  /** what is said of it, where that is more than is seen */
  readonly said: Said | null
}

/** What no volume covers of which anything is known: there a volume may be that no table names. */
function openRanges(image: ByteSource, volumes: readonly Named[]): Extent[] {
  const closed = volumes
    .filter(({ fileSystem, mark }) => fileSystem !== null || mark !== null)
    .flatMap(({ extent: [offset, bytes], header, fileSystem }): Extent[] => [
      [offset, Math.min(bytes, fileSystem?.bytes ?? bytes)],
      ...(header ? [header] : []),
    ])
  return rangesBetween(image, closed)
}

function rangesBetween(image: ByteSource, closed: readonly Extent[]): Extent[] {
  const ranges: Extent[] = []
  let at = 0
  for (const [offset, bytes] of closed.toSorted(([one], [other]) => one - other)) {
    if (offset > at) ranges.push([at, offset - at])
    at = Math.max(at, offset + bytes)
  }
  if (at < image.size) ranges.push([at, image.size - at])
  return ranges
}

function partitionsOf(image: ByteSource): {
  scheme: VolumeShape['scheme']
  places: readonly Extent[]
  warnings: readonly ScanWarning[]
} {
  for (const sectorBytes of SECTOR_SIZES) {
    const gpt = readGpt(image, sectorBytes)
    if (gpt) return { scheme: 'gpt', places: gpt.partitions.map(({ extent }) => extent), warnings: gpt.warnings }
  }
  const whole: Extent[] = [[0, image.size]]
  // The first sector of a file system ends with the same signature as a partition table.
  const mbr = readMbr(image, 512)
  if (!mbr || mbr.partitions.length === 0) return { scheme: 'none', places: whole, warnings: mbr?.warnings ?? [] }
  const isFileSystem =
    recognise(image, 0, image.size) !== null &&
    mbr.partitions.every(([offset]) => recognise(image, offset, 1e15) === null)
  if (isFileSystem) return { scheme: 'none', places: whole, warnings: [] }
  return { scheme: 'mbr', places: mbr.partitions, warnings: mbr.warnings }
}
