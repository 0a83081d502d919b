import type { ByteSource, Extent } from '../../sources/source'
import type { ScanWarning } from './volume-shape'
import type { UnitMap } from './unit-map'

/** A file as its file-system record describes it. Folders are walked, not returned. */
export interface FileRecord {
  /** names from the root of the volume on, joined with "/" */
  readonly path: string
  readonly record: 'present' | 'deleted'
  readonly bytes: number
  readonly created: string | null
  readonly modified: string | null
  readonly deleted: string | null
  /** where the content lies, in bytes of the image and in order, exactly `bytes` long; holes have the offset HOLE */
  readonly extents: readonly Extent[]
  /** other places where it may lie as well, where the record alone does not tell; the structure has to decide */
  readonly otherExtents: readonly (readonly Extent[])[]
  /** whether the record itself gives every extent, or their order was assumed since the chain had been cleared */
  readonly isChainRecorded: boolean
  /** the content, where it is not simply the bytes of the extents (kept inside of the record, compressed) */
  readonly content: ByteSource | null
  /** why the record cannot give all of the content, where it cannot */
  readonly fault: string | null
}

/** A file system that was recognised on a volume. One file system is one folder that answers this. */
export interface FileSystem {
  readonly kind: string
  readonly label: string | null
  /** bytes of a cluster or block */
  readonly unitBytes: number
  /** where unit 0 of the map lies, in bytes of the image */
  readonly unitsFrom: number
  /** what is in use, system areas included */
  readonly allocated: UnitMap
  readonly warnings: ScanWarning[]
  /** Every file, those that were deleted too. */
  files(): Iterable<FileRecord>
  /** After all files were returned: whether no record was ever reused, so that the records account for everything ever written. */
  hasEveryRecord(): boolean
  /** After all files were returned: whether records are missing that existed once (zeroed, unreadable, beyond the end). */
  hasLostRecords(): boolean
  readonly traces: Traces
}

/**
 * What the deep scan meets of records that nothing leads to any more: of an earlier file system of the same kind on a volume
 * that was made anew since, or of files that were deleted.
 */
export interface Traces {
  /** whether one begins in a block of bytes, where a sector does */
  begins(block: Uint8Array, at: number): boolean
  /** the files that traces at these places (bytes of the image) tell of, all of them deleted */
  files(places: readonly number[]): Iterable<FileRecord>
  /**
   * how a file that begins at an offset of the image may lie, likeliest first, as traces at these places tell; it was
   * followed in one piece for so many bytes, or fits in one piece (Infinity)
   */
  layouts(places: readonly number[]): (start: number, followed: number) => Iterable<Layout>
}

/** How a file that begins somewhere may lie. */
export interface Layout {
  readonly extents: readonly Extent[]
  /** whether a trace goes on exactly where the beginning ends; it is but a guess otherwise, for the structure to decide */
  readonly isTold: boolean
  /** how it may go on behind that */
  readonly more: () => Iterable<Layout>
}

/** Where traces tell nothing of how files lie that are known by their beginning. */
export const NO_LAYOUTS: Traces['layouts'] = () => () => []

/** One family of file systems. Each is one folder that exports one of these, and a line in the registry. */
export interface FileSystemFormat {
  /** what its volumes call themselves in `kind` */
  readonly kinds: readonly string[]
  /** The file system on a volume of an image (offset and length in bytes); null where it is another. */
  recognise(image: ByteSource, offset: number, length: number): FileSystem | null
}

/** Neighbouring stretches as one, and no longer than so many bytes in all. */
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

export const lengthOf = (extents: readonly Extent[]) => extents.reduce((sum, [, length]) => sum + length, 0)

const MAX_FOLDERS = 64

/** The path of a file in a folder that nothing leads to, as far up as other such folders name it. */
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
