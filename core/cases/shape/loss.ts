import { z } from 'zod'
import { bytes, choice, fact, yesNo } from './fact'
import { Moment } from './moment'

export const LOSS_KINDS = [
  'deleted-singly',
  'deleted-in-bulk',
  'bin-emptied',
  'factory-reset',
  'reinstalled',
  'formatted',
  'crashed-before-saving',
  'saved-over',
  'sync-switched',
  'app-removed',
  'locked-out',
  'broken',
  'malware',
] as const
export type LossKind = (typeof LOSS_KINDS)[number]

/** How and when it was lost, and what has happened to the device since. */
export const Loss = z.object({
  how: choice(LOSS_KINDS),
  when: fact(Moment),
  noticed: fact(Moment),
  /** only for a format: whether every block was written (full) or just the records (quick) */
  format: choice(['quick', 'full']),
  since: z
    .object({
      used: yesNo,
      writtenBytes: fact(bytes),
      installed: yesNo,
      /** whether the device may still sync the deletion to other places */
      sync: choice(['on', 'off', 'none']),
    })
    .prefault({}),
})
export type Loss = z.infer<typeof Loss>

/** Losses by ordinary deletion, through a bin where there is one. */
export const DELETIONS: readonly string[] = ['deleted-singly', 'deleted-in-bulk']

/** Losses without a deletion: the items are where they were, but cannot be reached. */
export const STILL_THERE: readonly string[] = ['locked-out', 'broken']
