import { z } from 'zod'
import { instant } from '../cases/shape/moment'

/** Whether somebody’s calendar is open at a secret address, and since when. The address itself is shown once. */
export const FeedAnswer = z.object({ since: instant.nullable(), path: z.string().nullable() })
export type FeedAnswer = z.infer<typeof FeedAnswer>
