import type { MediumShape } from '../../core/bench/medium'
import type { KeptContent } from '../../core/volumes/kept-content'
import type { recordsOf } from '../../core/records/adapt'
import type { MediumPlace } from './open-medium'

/** The orders for the reader of media. */
export type ReadOrder = { readonly medium: MediumPlace } & (
  | { readonly ask: 'describe' }
  | {
      readonly ask: 'read'
      readonly extents: readonly (readonly [number, number])[]
      readonly kept: KeptContent
      readonly offset: number
      readonly length: number
    }
)

export type Description = Omit<MediumShape, 'link' | 'isDevice'>
export interface ReadBytes {
  readonly bytes: Uint8Array
  /** how many of them are unreadable and were replaced by zeros */
  readonly missing: number
}

/** A database with the files beside it, to be read for its rows: their bytes follow each other, this many of each. */
export interface RowsOrder {
  readonly database: number
  readonly wal: number | null
  readonly journal: number | null
}
export interface RowsTold {
  readonly records: ReturnType<typeof recordsOf>
  readonly warnings: readonly string[]
}

/** What is read of a file: a preview, a thumbnail, a picture that browsers can draw, its size, when it was taken. */
export interface FileOrder {
  readonly ask: 'content' | 'thumb' | 'drawn' | 'pixels' | 'made'
  readonly name: string
}
export interface PixelsTold {
  readonly pixels: number
  readonly isDrawn: boolean
}
