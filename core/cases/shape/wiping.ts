import { z } from 'zod'
import { name } from './fact'
import { instant } from './moment'

/** What is wiped of a case: the data, and later whatever names the person. */
export const WIPED_PARTS = ['data', 'person'] as const
export type WipedPart = (typeof WIPED_PARTS)[number]

/** That a part was wiped. Nobody did it where its date came, or where it was done again after a restore. */
export const Wiped = z.object({
  at: instant,
  by: name(80).nullable().default(null),
  why: z.enum(['date', 'wish']),
})
export type Wiped = z.infer<typeof Wiped>

/** What of a case was wiped, and until when it is kept where that is later than the shop's own periods say. */
export const Wiping = z.object({
  keepUntil: instant.nullable().default(null),
  data: Wiped.nullable().default(null),
  person: Wiped.nullable().default(null),
})
export type Wiping = z.infer<typeof Wiping>
