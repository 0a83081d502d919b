import { z } from 'zod'
import { Case } from '../shape/case'
import { partId, text } from '../shape/fact'
import { RunReport } from '../shape/run'
import { CASE_STATES, WAITING_FOR } from '../shape/states'

/** Every write names the version of the case that its writer saw. */
const seen = z.object({ version: z.int().min(0) })

const ChangeShape = z.object({ fact: z.string().min(1).max(120), is: z.unknown() })

/** Changes that wait on a machine to be sent, and the version that they were made on. */
export const WaitingChanges = z.object({ base: z.int().min(0), changes: z.array(ChangeShape).max(1000) })
export type WaitingChanges = z.infer<typeof WaitingChanges>

export const NewCase = z.object({ changes: z.array(ChangeShape).max(200) })
export const FactsWrite = seen.extend({ changes: z.array(ChangeShape).min(1).max(200) })
export const HoldWrite = seen.extend({
  hold: partId,
  mark: z.enum(['ticked', 'waived']).nullable(),
  reason: text(400).default(''),
})
export const RunStart = seen.extend({ option: z.string().min(1).max(120) })
export const RunEnd = seen.extend({ report: RunReport })
export const MoveWrite = seen.extend({
  to: z.enum(CASE_STATES),
  waitingFor: z.enum(WAITING_FOR).nullable().default(null),
  reason: text(400).default(''),
})

const ClashShape = z.object({ fact: z.string(), yours: z.unknown(), theirs: z.unknown(), by: z.string() })

/** A case as the server answers it: the case, its version, and what of a write could not be made without asking. */
export const CaseAnswer = z.object({ version: z.int().min(1), case: Case, clashes: z.array(ClashShape) })
export type CaseAnswer = z.infer<typeof CaseAnswer>

/** One line of the counter. */
export const CaseSummary = z.object({
  code: z.string(),
  client: z.string(),
  wanted: z.string(),
  device: z.string(),
  state: z.string(),
  stateName: z.enum(CASE_STATES),
  nextStep: z.string(),
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
export const CounterAnswer = z.object({ total: z.int().min(0), cases: z.array(CaseSummary) })
export type CounterAnswer = z.infer<typeof CounterAnswer>

/** An order that somebody prefers to the best one, and why; null goes back to the best one. */
export const OverrideWrite = seen.extend({
  order: z.array(z.string().min(1).max(120)).min(1).max(60).nullable(),
  reason: text(400).default(''),
})

/** A client of the shop who has been here before. */
export const ClientCard = z.object({
  id: z.string(),
  name: z.string(),
  phone: z.string().nullable(),
  mail: z.string().nullable(),
  cases: z.int(),
})
export type ClientCard = z.infer<typeof ClientCard>
