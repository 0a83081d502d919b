import type { PassProgress, PassState } from '../../core/bench/medium'
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
