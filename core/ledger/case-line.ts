import { z } from 'zod'
import type { Case } from '../cases/shape/case'
import { known } from '../cases/shape/fact'
import { HOLD_MARKS } from '../cases/shape/hold-mark'
import { spanOf } from '../cases/shape/moment'
import { backShareOf } from '../cases/shape/outcome'
import { CASE_STATES, type CaseStateName } from '../cases/shape/states'

/** One case as the ledger counts it: figures and kinds, and nothing about the client. Times in ms. */
export const CaseLine = z.object({
  logged: z.number().nullable(),
  state: z.enum(CASE_STATES),
  /** by when the client needs it: the end of the range that they named */
  deadline: z.number().nullable(),
  /** the share of what was wanted that came back without damage; null where nobody knows how much was wanted */
  back: z.number().min(0).max(1).nullable(),
  holds: z.array(z.object({ hold: z.string(), mark: z.enum(HOLD_MARKS) })),
  isTraining: z.boolean(),
})
export type CaseLine = z.infer<typeof CaseLine>

export function caseLineOf(ofCase: Case): CaseLine {
  const { deadline } = ofCase.limits
  return {
    logged: ofCase.logged === null ? null : Date.parse(ofCase.logged),
    state: ofCase.state.name,
    deadline: known(deadline) ? spanOf(deadline).to : null,
    back: backShareOf(ofCase),
    holds: ofCase.holds.map(({ hold, mark }) => ({ hold: holdKind(hold), mark })),
    isTraining: ofCase.isTraining,
  }
}

/** The kind of a hold, without the device that it is on. */
const holdKind = (hold: string) => hold.replace(/-d\d+$/, '')

/** States in which what came back is there for the client. */
const DONE: readonly CaseStateName[] = ['ready', 'handed-over', 'uncollected', 'closed']

export const isDone = (state: CaseStateName): boolean => DONE.includes(state)

/** What became of a client’s deadline: kept, missed, or still ahead; null where there is none. `done`, `now`: ms. */
export function deadlineOf(
  deadline: number | null,
  done: number | null,
  now: number,
): 'kept' | 'missed' | 'ahead' | null {
  if (deadline === null) return null
  if (done !== null) return done <= deadline ? 'kept' : 'missed'
  return now <= deadline ? 'ahead' : 'missed'
}

/** Whether a case was logged in a period, ms. */
export const isLoggedIn = ({ logged }: CaseLine, period: { readonly from: number; readonly to: number }): boolean =>
  logged !== null && logged >= period.from && logged <= period.to
