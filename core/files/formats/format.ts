import type { DataType } from '../../cases/shape/data-types'
import type { Wholeness } from '../wholeness'
import type { Reader } from '../../sources/reader'
import type { Extent } from '../../sources/source'

/** How a walk through a file's own structure ended. */
export interface Walk {
  readonly mime: string
  readonly extension: string
  readonly type: DataType
  /** where the file ends by its own structure; for a broken one, as far as it could be followed */
  readonly bytes: number
  /** what the walk proves */
  readonly whole: Exclude<Wholeness, 'overwritten'>
  /** what was checked, in words */
  readonly checks: readonly string[]
  /** for a broken one: everything before this offset was proved, and where the contradiction was found */
  readonly provenTo: number
  readonly breaksAt: number
  /** states from which another walk over the same beginning can resume, latest last; their form is the format's own */
  readonly resume: readonly { readonly at: number; readonly state: unknown }[]
}

/** A file format. Each is one file that exports one of these, and is listed in the registry. */
export interface Format {
  readonly id: string
  /** extensions that files of this kind usually have, lower case */
  readonly extensions: readonly string[]
  /** parsing to its end does not prove that its fragments belong together: the data before the end are not checked */
  readonly isLoose?: boolean
  /** its content proves itself: checksums or decoded data show that the right fragments were joined */
  readonly isProvable?: boolean
  /** signatures, any of them: offset in the file, and the bytes as one character each */
  readonly signatures: readonly (readonly [at: number, bytes: string])[]
  /** Follows the structure from the start of a source, or from a state of `resume`; null where it is no such file. */
  walk(reader: Reader, from?: { readonly at: number; readonly state: unknown }): Walk | null
  /**
   * Where a broken file may have been cut and continued, by its own structure, likeliest first: the source begins with
   * the file and continues beyond it, and cuts are at multiples of `reader.unitBytes`.
   */
  gaps?(reader: Reader): Iterable<Gap>
  /** Whether the rest of a file may begin with these bytes, an allocation unit: false only where that is out of the question. */
  mayContinue?(unit: Uint8Array): boolean
}

/** A gap: the file breaks off before `cut` and continues at `at`. In bytes of the source. */
export interface Gap {
  readonly cut: number
  readonly at: number
}

type Kind = Pick<Walk, 'mime' | 'extension' | 'type'>

/** Built field by field: spreading objects takes ten times as long, and a medium has hundreds of thousands. */
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
 * Result for a file that parses to its end and is proved except for some ranges: whole where none of these has room for
 * an allocation unit that another file could have been given.
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

/** Result for a file that contradicts itself from an offset on; it is proved up to `provenTo`. */
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
