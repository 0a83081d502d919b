import type { Reader } from '../../sources/reader'
import type { ByteSource, Extent } from '../../sources/source'
import type { ScanWarning } from './volume-shape'
import type { UnitMap } from './unit-map'

/** A file as its file-system record describes it. Folders are walked, not returned. */
export interface FileRecord {
  /** names from the root of the volume, joined with "/" */
  readonly path: string
  readonly record: 'present' | 'deleted'
  readonly bytes: number
  readonly created: string | null
  readonly modified: string | null
  readonly deleted: string | null
  /** its extents in bytes of the image, in order, exactly `bytes` long; holes have the offset HOLE */
  readonly extents: readonly Extent[]
  /** other possible extents, where the record alone does not decide; the structure of the file has to */
  readonly otherExtents: readonly (readonly Extent[])[]
  /** whether the record itself gives every extent, or contiguous layout was assumed since the chain was cleared */
  readonly isChainRecorded: boolean
  /** the content, where it is not simply the bytes of the extents (resident, compressed) */
  readonly content: ByteSource | null
  /** why the record cannot give all of the content, where that is so */
  readonly fault: string | null
}

/** A file system recognised on a volume. Each kind is one folder that returns this. */
export interface FileSystem {
  readonly kind: string
  readonly label: string | null
  /** the length of the volume as it says itself, in bytes; an image may be shorter */
  readonly bytes: number
  /** bytes of a cluster or block */
  readonly unitBytes: number
  /** the offset of unit 0 of the map, in bytes of the image */
  readonly unitsFrom: number
  /** what is in use, system areas included */
  readonly allocated: UnitMap
  readonly warnings: ScanWarning[]
  /** Every file, deleted ones too. */
  files(): Iterable<FileRecord>
  /** After all files were returned: whether no record was ever reused, so that the records account for everything ever written. */
  hasEveryRecord(): boolean
  /** After all files were returned: whether records are missing that existed once (zeroed, unreadable, beyond the end). */
  hasLostRecords(): boolean
  readonly traces: Traces
}

/**
 * Traces that the deep scan finds of records to which nothing refers any more: of an earlier file system of the same
 * kind on a reformatted volume, or of deleted files.
 */
export interface Traces {
  /** whether a trace begins in a block of bytes, at a sector */
  begins(block: Uint8Array, at: number): boolean
  /** the files, all deleted, that traces at these places describe (bytes of the image) */
  files(places: readonly number[]): Iterable<FileRecord>
  /**
   * the possible extents of a file that begins at an offset of the image, likeliest first, by traces at these places;
   * it was followed contiguously for this many bytes, or parses contiguously (Infinity)
   */
  layouts(places: readonly number[]): (start: number, followed: number) => Iterable<Layout>
}

/** The possible extents of a file that begins somewhere. */
export interface Layout {
  readonly extents: readonly Extent[]
  /**
   * whether a trace continues exactly where the beginning ends; otherwise it is a guess, which the structure of the
   * file has to confirm
   */
  readonly isTold: boolean
  /** how it may continue behind that */
  readonly more: () => Iterable<Layout>
}

/** For file systems whose traces give no extents of files that are known by their beginning. */
export const NO_LAYOUTS: Traces['layouts'] = () => () => []

/** A family of file systems. Each is one folder that exports one of these, and a line in the registry. */
export interface FileSystemFormat {
  /** the names of its volumes in `kind` */
  readonly kinds: readonly string[]
  /** The file system on a volume of an image (offset and length in bytes); null where it is another. */
  recognise(image: ByteSource, offset: number, length: number): FileSystem | null
  /** The volumes of which the first sector or block, or a copy of it, may be at a place: offsets and lengths in bytes. */
  startsAt(image: Reader, at: number): readonly Extent[]
}

/** Merges adjacent ranges and cuts them to this many bytes in all. */
export function joinedExtents(extents: Iterable<Extent>, bytes: number): Extent[] {
  const joined: [number, number][] = []
  let left = bytes
  for (const [offset, length] of extents) {
    const part = Math.min(length, left)
    if (part <= 0) break
    left -= part
    const last = joined.at(-1)
    const isNext = last && (offset < 0 ? last[0] === offset : last[0] >= 0 && last[0] + last[1] === offset)
    if (isNext) last[1] += part
    else joined.push([offset, part])
  }
  return joined
}

/** The length of all extents together, bytes. */
export const lengthOf = (extents: readonly Extent[]) => extents.reduce((sum, [, length]) => sum + length, 0)

const MAX_FOLDERS = 64

/** The path of a file in a directory that nothing refers to, as far up as other such directories name it. */
export function lostPath(
  parents: ReadonlyMap<number, { readonly name: string; readonly cluster: number }>,
  folder: number,
  name: string,
): string {
  const names = [name]
  let parent = parents.get(folder)
  for (; parent && names.length < MAX_FOLDERS; parent = parents.get(parent.cluster)) names.unshift(parent.name)
  return ['lost folder', ...names].join('/')
}
