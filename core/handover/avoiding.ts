import type { Case } from '../cases/shape/case'
import type { Playbook } from '../playbook/playbook'
import type { FactorName } from '../ranking/figures/factor'
import type { Plan, PlanOption } from '../ranking/situation/plan-shape'
import { wouldHaveSaved } from './saved'

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
 * How the client avoids it next time, from this very case: what would have saved it, then what the playbook says of the routes
 * that failed, of those that were closed for want of something beforehand, and of those that worked. At most five sentences,
 * each once.
 */
export function avoidingWords(ofCase: Case, plan: Pick<Plan, 'options'>, { kinds }: Pick<Playbook, 'kinds'>): string[] {
  const failed = ofCase.runs.filter((run) => run.failedOn !== null || run.hasFailed).map((run) => run.kind)
  const closed = plan.options.filter(isClosedBeforehand).map(({ kind }) => kind)
  const worked = ofCase.runs.filter((run) => run.results.some(({ back }) => back > 0)).map((run) => run.kind)
  const told = [...failed, ...closed, ...worked].flatMap((id) => kinds.find((kind) => kind.id === id)?.aftercare ?? [])
  return [...new Set([...wouldHaveSaved(ofCase).slice(0, 3), ...told])].slice(0, 5)
}

const isClosedBeforehand = ({ standing, factors }: PlanOption) =>
  standing === 'closed' && factors.some(({ name, value }) => value === 0 && BEFOREHAND.includes(name))
