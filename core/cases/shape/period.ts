import { z } from 'zod'

const days = z.number().min(0).max(3660)

/** A period that is itself a range, in days. */
export const Period = z
  .object({ minDays: days, maxDays: days })
  .refine((period) => period.minDays <= period.maxDays, 'ends before it begins')
export type Period = z.infer<typeof Period>
