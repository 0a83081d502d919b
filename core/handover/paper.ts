import { z } from 'zod'
import { instant } from '../cases/shape/moment'

/**
 * What is printed for a client: receipts for what was handed in, given back and paid, what can be tried, and the report, with
 * its annex or without.
 */
export const PAPER_KINDS = ['received', 'returned', 'options', 'paid', 'report', 'annex'] as const
export type PaperKind = (typeof PAPER_KINDS)[number]

/** A sheet that was made for a client, in the list of a case. */
export const Paper = z.object({
  id: z.int(),
  kind: z.enum(PAPER_KINDS),
  number: z.string(),
  at: instant,
  by: z.string(),
})
export type Paper = z.infer<typeof Paper>

/** What somebody asks to be made; receipts come with what they are for. */
export const PaperAsk = z.object({ kind: z.enum(['options', 'report', 'annex']) })

/** The number by which a sheet that was made is read. */
export const PaperMade = z.object({ id: z.int() })
