import type { Case } from '../cases/shape/case'
import { deviceWords } from '../cases/telling/words'
import type { Playbook } from '../playbook/playbook'
import type { FactorName } from '../ranking/figures/factor'
import type { Plan, PlanOption } from '../ranking/situation/plan-shape'

/** The kinds of copies of which a case without any learns most. */
const BACKUPS: readonly string[] = [
  'computer-backup',
  'cloud-backup',
  'file-history',
  'snapshot-timeline',
  'system-image',
]

/** Conditions that somebody can bring about before a loss. What a client does not want, or the device cannot, is none of them. */
const BEFOREHAND: readonly string[] = [
  'passcode',
  'account',
  'backup-password',
  'bin-on',
  'sync-was-on',
  'full-size',
  'backup-kept',
  'window',
  'coverage',
] satisfies FactorName[]

/**
 * How the client avoids it next time, from this very case: that no backup was known, then what the playbook says of the routes
 * that failed, of those that were closed for want of something beforehand, and of those that worked. At most five sentences,
 * each once.
 */
export function avoidingWords(ofCase: Case, plan: Pick<Plan, 'options'>, { kinds }: Pick<Playbook, 'kinds'>): string[] {
  const failed = ofCase.runs.filter((run) => run.failedOn !== null || run.hasFailed).map((run) => run.kind)
  const closed = plan.options.filter(isClosedBeforehand).map(({ kind }) => kind)
  const worked = ofCase.runs.filter((run) => run.results.some(({ back }) => back > 0)).map((run) => run.kind)
  const told = [...failed, ...closed, ...worked].flatMap((id) => kinds.find((kind) => kind.id === id)?.aftercare ?? [])
  return [...new Set([...missingCopies(ofCase), ...told])].slice(0, 5)
}

const isClosedBeforehand = ({ standing, factors }: PlanOption) =>
  standing === 'closed' && factors.some(({ name, value }) => value === 0 && BEFOREHAND.includes(name))

function missingCopies({ copies, devices }: Case): string[] {
  if (copies.some(({ kind }) => BACKUPS.includes(kind))) return []
  const what = devices[0] ? deviceWords(devices[0]) : 'the device'
  return [`We knew of no backup of ${what}. Let one run every night, and look at its date once a month.`]
}
