import type { DataType } from '../cases/shape/data-types'
import type { ByteSource, Extent } from '../sources/source'
import type { Wholeness } from '../files/wholeness'

/** The note on a record whose content is of another kind than its name says. */
export const NOT_ITS_NAME = 'content does not match the extension'

/** A file that a scan has found. `content` says how whole it is, `checks` how that is known. */
export interface MediaItem {
  /** the same for the same file in every scan of an unchanged medium */
  readonly key: string
  /** number of its volume; null outside every volume */
  readonly volume: number | null
  readonly path: string | null
  readonly record: 'present' | 'deleted' | 'none'
  readonly created: string | null
  readonly modified: string | null
  readonly deleted: string | null
  bytes: number
  mime: string | null
  extension: string
  type: DataType
  foundBy: ('quick' | 'deep')[]
  content: Wholeness
  checks: string[]
  extents: readonly Extent[]
  /** its content, where that is not simply the bytes of its extents */
  source: ByteSource | null
}
