import { z } from 'zod'
import { Case } from '../shape/case'
import { name, partId, text } from '../shape/fact'
import { HOLD_MARKS } from '../shape/hold-mark'
import { RunReport, SheetCheck } from '../shape/run'
import { CLOCK_PHASES } from '../shape/run-clock'
import { CASE_STATES, WAITING_FOR } from '../shape/states'

/** Every write names the version of the case that its writer saw. */
const seen = z.object({ version: z.int().min(0) })

const ChangeShape = z.object({ fact: z.string().min(1).max(120), is: z.unknown() })

/** Changes that wait on a machine to be sent, and the version on which they were made. */
export const WaitingChanges = z.object({ base: z.int().min(0), changes: z.array(ChangeShape).max(1000) })
export type WaitingChanges = z.infer<typeof WaitingChanges>

export const NewCase = z.object({ changes: z.array(ChangeShape).max(200) })
export const FactsWrite = seen.extend({ changes: z.array(ChangeShape).min(1).max(200) })
export const HoldWrite = seen.extend({
  hold: partId,
  mark: z.enum(HOLD_MARKS).nullable(),
  reason: text(400).default(''),
})
export const RunStart = seen.extend({ option: z.string().min(1).max(120) })
/** What is done on the sheet of an open run: a line ticked or unticked, its clock switched, a note written. */
export const RunMark = z.union([
  z.strictObject({ line: SheetCheck.shape.line, isDone: z.boolean() }),
  z.strictObject({ phase: z.enum(CLOCK_PHASES) }),
  z.strictObject({ note: name(1000) }),
])
export type RunMark = z.infer<typeof RunMark>
export const RunMarkWrite = seen.extend({ mark: RunMark })
/** Why the odds are not to learn from an ended run; null where they are to learn from it again. */
export const RunLeftOut = seen.extend({ reason: name(400).nullable() })
export const RunEnd = seen.extend({ report: RunReport })
export const MoveWrite = seen.extend({
  to: z.enum(CASE_STATES),
  waitingFor: z.enum(WAITING_FOR).nullable().default(null),
  reason: text(400).default(''),
})

const ClashShape = z.object({ fact: z.string(), yours: z.unknown(), theirs: z.unknown(), by: z.string() })

/** A case as the server answers it: the case, its version, and the clashes of a write. */
export const CaseAnswer = z.object({ version: z.int().min(1), case: Case, clashes: z.array(ClashShape) })
export type CaseAnswer = z.infer<typeof CaseAnswer>

/** The answer to a reader who has a version of the case: only its number where there is no newer one. */
export const CaseIfNewer = z.union([CaseAnswer, z.strictObject({ version: z.int().min(1) })])

/** An order that somebody prefers to the best one, and why; null restores the best one. */
export const OverrideWrite = seen.extend({
  order: z.array(z.string().min(1).max(120)).min(1).max(60).nullable(),
  reason: text(400).default(''),
})
