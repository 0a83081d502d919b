import type { DataType } from '../cases/shape/data-types'
import type { ByteSource, Extent } from '../sources/source'
import type { Wholeness } from '../files/wholeness'

/** Said of a record whose content is of another kind than its name says. */
export const NOT_ITS_NAME = 'content does not match the extension'

/** Something that a pass has found. `content` says how whole it is, `checks` by what. */
export interface MediaItem {
  /** the same for the same thing at every pass over an unchanged medium */
  readonly key: string
  /** number of the volume it lies on; null outside of all */
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
