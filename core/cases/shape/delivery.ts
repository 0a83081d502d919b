import { z } from 'zod'
import { name, partId, text } from './fact'
import { instant } from './moment'

/** What the client says of a group of items that came back. */
export const CHECK_MARKS = ['right', 'missing', 'not-sure'] as const
export type CheckMark = (typeof CHECK_MARKS)[number]

/** One group of a wanted set, gone through with the client: all of it, what was made on one day (YYYY-MM-DD), or what has no date. */
export const ClientCheck = z.object({
  wanted: partId,
  group: z.union([z.enum(['all', 'undated']), z.iso.date()]),
  mark: z.enum(CHECK_MARKS),
  note: text(400).default(''),
  at: instant,
  by: name(80),
})
export type ClientCheck = z.infer<typeof ClientCheck>

/** How a case ended for its client. */
export const ENDINGS = ['in-full', 'in-part', 'nothing', 'not-possible', 'stopped-by-client'] as const
export type Ending = (typeof ENDINGS)[number]

/** The recorded outcome of a case, and what the client took with them. */
export const Outcome = z.object({
  ending: z.enum(ENDINGS),
  reasons: text(2000).default(''),
  /** items that were handed over, per wanted set */
  delivered: z.array(z.object({ wanted: partId, count: z.int().min(0).max(100_000_000) })).max(50),
  at: instant,
  by: name(80),
})
export type Outcome = z.infer<typeof Outcome>
