import type { MediumShape, PassProgress, PassState } from '../../core/media/medium'
import type { KeptContent } from '../../core/media/kept-content'
import type { MediumPlace } from '../media/open-medium'
import type { PassJob, Wish } from './run-pass'

/** What the server says to the process of a pass. */
export type PassOrder =
  | { readonly order: 'run'; readonly job: PassJob; readonly dataFolder: string }
  | { readonly order: 'wish'; readonly wish: Wish }

/** What the process of a pass says to the server. */
export type PassMessage =
  | { readonly tells: 'progress'; readonly progress: PassProgress }
  | { readonly tells: 'end'; readonly state: PassState }
  | { readonly tells: 'fault'; readonly says: string }

/** What the reader of media is asked. */
export type ReadOrder = { readonly id: number; readonly medium: MediumPlace } & (
  | { readonly ask: 'describe' }
  | {
      readonly ask: 'read'
      readonly extents: readonly (readonly [number, number])[]
      readonly kept: KeptContent
      readonly offset: number
      readonly length: number
    }
)

export type ReadAnswer = { readonly id: number } & (
  | { readonly gives: 'description'; readonly of: Omit<MediumShape, 'link' | 'isDevice'> }
  | { readonly gives: 'bytes'; readonly bytes: Uint8Array; readonly missing: number }
  | { readonly gives: 'fault'; readonly code: string; readonly says: string }
)
