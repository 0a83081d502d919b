import { z } from 'zod'
import { name, partId, text } from './fact'
import { instant } from './moment'

/** How a hold is settled: done, or waived with a reason. */
export const HOLD_MARKS = ['ticked', 'waived'] as const

/** That somebody did what a hold asks, or waived it and why. */
export const HoldMark = z
  .object({
    hold: partId,
    mark: z.enum(HOLD_MARKS),
    reason: text(400).default(''),
    by: name(80),
    at: instant,
  })
  .refine((mark) => mark.mark === 'ticked' || mark.reason.length > 0, {
    message: 'give a reason to waive a hold',
    path: ['reason'],
  })
export type HoldMark = z.infer<typeof HoldMark>
