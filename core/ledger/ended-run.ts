import { z } from 'zod'
import type { Case } from '../cases/shape/case'
import { DATA_TYPES } from '../cases/shape/data-types'
import { DEVICE_KINDS, PLATFORMS } from '../cases/shape/device'
import { known, UNKNOWN } from '../cases/shape/fact'
import { LOSS_KINDS } from '../cases/shape/loss'
import { isUndecided, RUN_CAUSES, type Run } from '../cases/shape/run'
import { outcomeOfRun, RunOutcome } from '../ranking/situation/evidence'

const count = z.int().min(0)

/** One ended run as the ledger counts it: figures and kinds, and nothing about the client. */
export const EndedRun = z.object({
  run: z.string(),
  /** ms */
  ended: z.number(),
  /** what the odds learn from it; null where it decided nothing */
  outcome: RunOutcome.nullable(),
  kind: z.string(),
  platform: z.enum([...PLATFORMS, UNKNOWN]),
  device: z.enum([...DEVICE_KINDS, UNKNOWN]),
  type: z.enum([...DATA_TYPES, UNKNOWN]),
  loss: z.enum([...LOSS_KINDS, UNKNOWN]),
  by: z.string(),
  cause: z.enum(RUN_CAUSES).nullable(),
  /** the chance that the plan gave it when it started; null for runs outside of plans */
  chance: z.number().min(0).max(1).nullable(),
  /** its place in the plan when it started, from 1; null where it had none */
  place: z.int().min(1).nullable(),
  /** the first of its case that decided something and was not left out */
  isFirst: z.boolean(),
  /** how many items came back, how many of them whole, and how many unverified; the rest is damaged */
  back: count,
  whole: count,
  unverified: count,
  handsOn: z.number(),
  waiting: z.number(),
  /** what the shop spent, and what it charged for it */
  spent: z.number(),
  charged: z.number(),
  /** why somebody left it out of the odds; null where it counts */
  leftOut: z.string().nullable(),
  isTraining: z.boolean(),
})
export type EndedRun = z.infer<typeof EndedRun>

/** How many of the items that a run brought are damaged. */
export const damagedOf = ({ back, whole, unverified }: Pick<EndedRun, 'back' | 'whole' | 'unverified'>): number =>
  Math.max(0, back - whole - unverified)

/** How a run ended: something came back, nothing did, a condition was not met, or nobody knows what it would have brought. */
export const RUN_ENDS = ['worked', 'failed', 'gate', 'undecided'] as const
export type RunEnd = (typeof RUN_ENDS)[number]

export function endOf({ outcome }: Pick<EndedRun, 'outcome'>): RunEnd {
  if (outcome === null) return 'undecided'
  if (outcome.came === null) return 'gate'
  return outcome.came > 0 ? 'worked' : 'failed'
}

/** How much of what was reachable came back, 0 to 1; a condition that was not met brought nothing. Null where undecided. */
export const cameOf = ({ outcome }: Pick<EndedRun, 'outcome'>): number | null =>
  outcome === null ? null : (outcome.came ?? 0)

/** True where the odds learn from a run. */
export const isCounted = ({ leftOut, isTraining }: Pick<EndedRun, 'leftOut' | 'isTraining'>): boolean =>
  leftOut === null && !isTraining

/** A run that ended in another shop: the odds are of this shop's own runs, so that it is left out until somebody counts it. */
export const fromElsewhere = (run: Run, by: string, at: string): Run =>
  run.ended === null || run.leftOut !== null ? run : { ...run, leftOut: { reason: 'ended in another shop', by, at } }

/** The ended runs of a case. */
export function endedRunsOf(ofCase: Case): EndedRun[] {
  const runs = ofCase.runs.flatMap((run) => (run.ended === null ? [] : [endedRun(run, run.ended, ofCase)]))
  const deciding = runs.filter((run) => run.leftOut === null && run.outcome !== null)
  const first = deciding.reduce<EndedRun | null>((so, run) => (so && so.ended <= run.ended ? so : run), null)
  return runs.map((run) => ({ ...run, isFirst: run === first }))
}

function endedRun(run: Run, ended: string, ofCase: Case): EndedRun {
  // Also of a run that decided nothing it is known on what it was tried.
  const outcome = outcomeOfRun(run, ofCase)
  const sum = (of: (result: Run['results'][number]) => number) => run.results.reduce((so, one) => so + of(one), 0)
  return {
    run: run.id,
    ended: Date.parse(ended),
    outcome: isUndecided(run.cause) ? null : outcome,
    kind: run.kind,
    platform: outcome.platform,
    device: deviceOf(run, ofCase),
    type: outcome.type,
    loss: ofCase.loss.how,
    by: run.by,
    cause: run.failedOn !== null ? 'gate' : run.cause,
    chance: run.predicted?.chance ?? null,
    place: run.predicted?.place ?? null,
    isFirst: false,
    back: sum(({ back }) => back),
    whole: sum(({ whole }) => whole),
    unverified: sum(({ unverified }) => unverified),
    handsOn: run.handsOnMinutes,
    waiting: run.waitingMinutes,
    spent: run.money,
    charged: ofCase.money.charges.reduce(
      (so, charge) => so + (charge.run === run.id && charge.cancelled === null ? charge.amount : 0),
      0,
    ),
    leftOut: run.leftOut?.reason ?? null,
    isTraining: ofCase.isTraining,
  }
}

/** The kind of device that a run read: its own, or the one that its copy belongs to; the medium where the copy is one. */
function deviceOf(run: Run, { devices, copies }: Case): EndedRun['device'] {
  const copy = copies.find(({ id }) => id === run.copy)
  const storage = copy && known(copy.storage.kind) ? copy.storage.kind : null
  if (copy?.kind === 'medium' && (storage === 'card' || storage === 'stick')) return storage
  const source = run.option.slice(run.option.indexOf(':') + 1)
  return (devices.find(({ id }) => id === source || id === copy?.device) ?? devices[0])?.kind ?? UNKNOWN
}
