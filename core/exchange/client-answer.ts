import { z } from 'zod'
import { WIPE_ASKS, WIPE_STOPS } from '../afterwards/standing'
import { HeldCounts } from '../afterwards/record'
import { WIPED_PARTS } from '../cases/shape/wiping'
import { instant } from '../cases/shape/moment'
import { ClientCard } from '../cases/shape/summary'

/** All about one client: their cases, what is held of each, and what erasing would leave. */
export const ClientAnswer = z.object({
  client: ClientCard,
  cases: z.array(
    z.object({
      code: z.string(),
      what: z.string(),
      state: z.string(),
      logged: instant.nullable(),
      /** stopped: not in the file for the client, and not erased */
      isStopped: z.boolean(),
      held: HeldCounts,
      erasing: z.array(
        z.object({
          part: z.enum(WIPED_PARTS),
          does: z.enum(['wipe', 'stays', 'gone']),
          why: z.enum([...WIPE_STOPS, ...WIPE_ASKS, 'receipts']).nullable(),
          until: instant.nullable(),
        }),
      ),
    }),
  ),
})
export type ClientAnswer = z.infer<typeof ClientAnswer>

/** What was erased of a client: how many parts, and what stays. The client is null where nothing names them any more. */
export const ErasedAnswer = z.object({ wiped: z.int(), left: ClientAnswer.nullable() })

/** The wish of a client that everything about them is erased, confirmed by their name. */
export const EraseWish = z.object({ name: z.string().trim().min(1, 'is empty').max(120) })
