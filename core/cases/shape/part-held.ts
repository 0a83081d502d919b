import { z } from 'zod'
import { known, type Fact } from './fact'
import { Moment } from './moment'
import { countOf, type WantedSet } from './wanted'

/** Which part of a wanted set a copy holds: all, none, a number of items, a share, or those made in a range. */
export const PartHeld = z.union([
  z.enum(['all', 'none']),
  z.strictObject({ count: z.int().min(0, 'is below zero').max(100_000_000) }),
  z.strictObject({ share: z.number().min(0, 'is below zero').max(1, 'is more than all of them') }),
  Moment,
])
export type PartHeld = z.infer<typeof PartHeld>

/** The part as a share of the set, 0 to 1; null where it is a range of dates, or a count of an unknown number. */
export function shareHeld(part: PartHeld, set: WantedSet): number | null {
  if (part === 'all') return 1
  if (part === 'none') return 0
  if ('share' in part) return part.share
  if ('count' in part) return known(set.count) ? Math.min(1, part.count / countOf(set)) : part.count === 0 ? 0 : null
  return null
}

/** The dates of a part that is a range of dates, else null. */
export const datesHeld = (part: Fact<PartHeld>): Moment | null =>
  typeof part === 'object' && 'from' in part ? part : null
