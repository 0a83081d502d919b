import { z } from 'zod'
import { CASE_STATES } from './states'

/** One line of the counter. */
export const CaseSummary = z.object({
  code: z.string(),
  client: z.string(),
  wanted: z.string(),
  device: z.string(),
  state: z.string(),
  stateName: z.enum(CASE_STATES),
  nextStep: z.string(),
  /** when the client is to be told or reminded that it is ready; null while there is nothing to say */
  remindAt: z.iso.datetime().nullable().default(null),
  back: z.number(),
  expected: z.number(),
  closes: z.tuple([z.string().nullable(), z.string().nullable()]),
  closesWhat: z.string(),
  waitCost: z.number(),
  waitItems: z.string(),
  with: z.string().nullable(),
})
export type CaseSummary = z.infer<typeof CaseSummary>

/** What the counter shows: some of the open cases, and how many there are in all. */
export const CounterAnswer = z.object({
  total: z.int().min(0),
  cases: z.array(CaseSummary),
  /** cases that have ended and ask before they are wiped, for those who decide that */
  asks: z.int().min(0).default(0),
})
export type CounterAnswer = z.infer<typeof CounterAnswer>

/** A client of the shop who has been here before. */
export const ClientCard = z.object({
  id: z.string(),
  name: z.string(),
  phone: z.string().nullable(),
  mail: z.string().nullable(),
  cases: z.int(),
})
export type ClientCard = z.infer<typeof ClientCard>

export const ClientList = z.array(ClientCard)
