import type { DataType } from '../../cases/shape/data-types'
import type { Wholeness } from '../wholeness'
import type { Reader } from '../../sources/reader'
import type { Extent } from '../../sources/source'

/** How a walk through a file's own structure ended. */
export interface Walk {
  readonly mime: string
  readonly extension: string
  readonly type: DataType
  /** where the file ends by its own structure; of a broken one, as far as it could be followed */
  readonly bytes: number
  /** what the walk proves of it; what a walk begins in is never overwritten as a whole */
  readonly whole: Exclude<Wholeness, 'overwritten'>
  /** what was checked, in words */
  readonly checks: readonly string[]
  /** of a broken one: everything before this offset was proved, and where the contradiction was met */
  readonly provenTo: number
  readonly breaksAt: number
  /** where another walk over the same beginning may go on, latest last; its form is the format's own */
  readonly resume: readonly { readonly at: number; readonly state: unknown }[]
}

/** One kind of file. Each is one file that exports one of these, and is named in the registry. */
export interface Format {
  readonly id: string
  /** extensions that files of this kind usually have, lower case */
  readonly extensions: readonly string[]
  /** that it fits to its end is no sign that its pieces belong together: nothing is known of what lies before the end */
  readonly isLoose?: boolean
  /** what stands at its beginning, any of them: offset in the file, and the bytes as one character each */
  readonly signatures: readonly (readonly [at: number, bytes: string])[]
  /** Follows the structure from the start of a source; null where it is no such file. Gone on with from a state of `resume`. */
  walk(reader: Reader, from?: { readonly at: number; readonly state: unknown }): Walk | null
  /**
   * Where a broken file may have been cut and continued, by its own structure, likeliest first: what is read
   * begins with it and goes on beyond, and the cuts are at multiples of `reader.unitBytes`.
   */
  gaps?(reader: Reader): Iterable<Gap>
}

/** Something else lies in between: the file breaks off before `cut`, and goes on at `at`. In bytes of what is read. */
export interface Gap {
  readonly cut: number
  readonly at: number
}

type Kind = Pick<Walk, 'mime' | 'extension' | 'type'>

/** Told field by field: putting objects together from parts takes ten times as long, and a medium has hundreds of thousands. */
const ended = (
  { mime, extension, type }: Kind,
  bytes: number,
  whole: Walk['whole'],
  provenTo: number,
  checks: string[],
): Walk => ({
  mime,
  extension,
  type,
  bytes,
  whole,
  checks,
  provenTo,
  breaksAt: bytes,
  resume: [],
})

/** Result for a file whose every byte is verified; `bytes` is its length. */
export function intact(kind: Kind, bytes: number, ...checks: string[]): Walk {
  return ended(kind, bytes, 'intact', bytes, checks)
}

/**
 * It ends there, and all of it is proved but some stretches: whole where none of them has room for a unit that another
 * file could have been given.
 */
export function intactBut(
  kind: Kind,
  bytes: number,
  unproven: readonly Extent[],
  unitBytes: number,
  check: string,
): Walk {
  const hasRoom = unproven.some(
    ([offset, length]) => (Math.ceil(offset / unitBytes) + 1) * unitBytes <= offset + length,
  )
  return hasRoom ? unverified(kind, bytes, check, 'part of the file has no checksum') : intact(kind, bytes, check)
}

/** Result for a file that parses to its end but is not fully covered by checks. */
export function unverified(kind: Kind, bytes: number, ...checks: string[]): Walk {
  return ended(kind, bytes, 'unverified', 0, checks)
}

/** It is such a file, and contradicts itself from an offset on; up to `provenTo` it was proved. */
export function partial(
  kind: Kind,
  {
    provenTo,
    breaksAt,
    why,
    resume = [],
  }: { provenTo: number; breaksAt: number; why: string; resume?: Walk['resume'] },
): Walk {
  return { ...kind, bytes: breaksAt, whole: 'partial', checks: [why], provenTo, breaksAt, resume }
}
