import type { MediumShape } from '../../core/bench/medium'
import type { KeptContent } from '../../core/volumes/kept-content'
import type { recordsOf } from '../../core/records/adapt'
import type { MediumPlace } from './open-medium'

/** What the reader of media is asked. */
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
  /** how many of them the medium does not give; zeros stand for them */
  readonly missing: number
}

/** A database with what lies beside it, to be read for its rows: their bytes come one after the other, so many of each. */
export interface RowsOrder {
  readonly database: number
  readonly wal: number | null
  readonly journal: number | null
}
export interface RowsTold {
  readonly records: ReturnType<typeof recordsOf>
  readonly warnings: readonly string[]
}

/** What is read of a file: what to show, a small picture, a picture that a browser draws, its size, when it was taken. */
export interface FileOrder {
  readonly ask: 'content' | 'thumb' | 'drawn' | 'pixels' | 'made'
  readonly name: string
}
export interface PixelsTold {
  readonly pixels: number
  readonly isDrawn: boolean
}
