import type { PassProgress, PassState } from '../../core/bench/medium'
import type { PassJob, Wish } from './run-pass'

/** Messages from the server to the process of a scan. */
export type PassOrder =
  | { readonly order: 'run'; readonly job: PassJob; readonly dataFolder: string }
  | { readonly order: 'wish'; readonly wish: Wish }

/** Messages from the process of a scan to the server. */
export type PassMessage =
  | { readonly tells: 'progress'; readonly progress: PassProgress }
  | { readonly tells: 'end'; readonly state: PassState }
  | { readonly tells: 'fault'; readonly says: string }
