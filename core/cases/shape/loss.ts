import { z } from 'zod'
import { bytes, choice, fact, known, partId, yesNo, type Fact } from './fact'
import { Moment } from './moment'

export const LOSS_KINDS = [
  'deleted-singly',
  'deleted-in-bulk',
  'deleted-past-bin',
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
  'device-gone',
  'malware',
  'not-lost-yet',
] as const
export type LossKind = (typeof LOSS_KINDS)[number]

/** A number of bytes that is only known to lie between two. */
export const ByteRange = z
  .strictObject({ from: bytes, to: bytes })
  .refine((range) => range.from <= range.to, { message: 'ends before it begins', path: ['to'] })
export type ByteRange = z.infer<typeof ByteRange>

/** How and when it was lost, and what has happened to the device since. */
export const Loss = z.object({
  how: choice(LOSS_KINDS),
  /** when it was lost, or when it will be where it is not lost yet */
  when: fact(Moment),
  noticed: fact(Moment),
  /** ids of the devices and media (copies) on which it happened, where there are several */
  on: fact(z.array(partId).min(1).max(20)),
  /** only for a format: whether every block was written (full) or just the records (quick) */
  format: choice(['quick', 'full']),
  since: z
    .object({
      used: yesNo,
      writtenBytes: fact(z.union([bytes, ByteRange])),
      installed: yesNo,
      /** whether the device may still sync the deletion to other places */
      sync: choice(['on', 'off', 'none']),
    })
    .prefault({}),
})
export type Loss = z.infer<typeof Loss>

/** Losses by deletion: through a bin where there is one, unless it was passed by. */
export const DELETIONS: readonly string[] = ['deleted-singly', 'deleted-in-bulk', 'deleted-past-bin']

/** True where it is known that the loss happened on other devices or media than this one (id). */
export const happenedElsewhere = (on: Fact<readonly string[]>, id: string | undefined): boolean =>
  known(on) && id !== undefined && !on.includes(id)

/** Losses that make all records anew, and may leave the content. */
export const FORMATS = ['formatted', 'reinstalled', 'factory-reset'] as const satisfies LossKind[]

export const isFormat = (how: string): boolean => (FORMATS as readonly string[]).includes(how)

/** Losses that take with them every copy that lies on the device. */
export const TAKE_WHAT_LIES_THERE: readonly string[] = [...FORMATS, 'device-gone']

/** Losses of a whole device or medium, with every copy that lies on it. */
export const WHOLE_LOSSES: readonly string[] = [...TAKE_WHAT_LIES_THERE, 'broken', 'malware', 'locked-out']

/** Losses without a deletion: the items are where they were, but cannot be reached. */
export const STILL_THERE: readonly string[] = ['locked-out', 'broken', 'not-lost-yet']

/** How many bytes were written, as a range: least and most. */
export const writtenRange = (written: number | ByteRange): ByteRange =>
  typeof written === 'number' ? { from: written, to: written } : written
