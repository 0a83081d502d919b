import type { Case } from '../cases/shape/case'
import { deviceWords } from '../cases/telling/words'
import type { RouteKind } from '../playbook/kinds/route-kind'
import type { Playbook } from '../playbook/playbook'
import type { Plan } from '../ranking/situation/plan-shape'

/** The kinds of copies of which a case without any learns most. */
const BACKUPS = ['computer-backup', 'cloud-backup', 'file-history', 'snapshot-timeline', 'system-image'] as const

/**
 * How the client avoids it next time, from this very case: what the playbook says of the routes that were tried or that were
 * closed, those that failed on a condition first, and what would have helped where there was no backup at all. At most five
 * sentences, each once.
 */
export function avoidingWords(ofCase: Case, plan: Pick<Plan, 'options'>, { kinds }: Pick<Playbook, 'kinds'>): string[] {
  const kindOf = (id: string) => kinds.find((kind) => kind.id === id)
  const failed = ofCase.runs.filter((run) => run.failedOn !== null || run.hasFailed).map((run) => run.kind)
  const closed = plan.options.filter(({ standing }) => standing === 'closed').map(({ kind }) => kind)
  const worked = ofCase.runs.filter((run) => run.results.some(({ back }) => back > 0)).map((run) => run.kind)
  const told = [...failed, ...closed, ...worked].flatMap((id) => kindOf(id)?.aftercare ?? [])
  return [...new Set([...missingCopies(ofCase, kinds), ...told])].slice(0, 5)
}

/** What a backup that nobody had would have given back. */
function missingCopies(ofCase: Case, kinds: readonly RouteKind[]): string[] {
  if (ofCase.copies.some(({ kind }) => (BACKUPS as readonly string[]).includes(kind))) return []
  const [device] = ofCase.devices
  // Of all kinds that read backups, this one's advice is for whoever has none yet.
  const own = kinds.find(({ id }) => id === 'cloud-backup-selective')
  const what = device ? deviceWords(device) : 'the device'
  return [
    `There was no backup of ${what}. ${own?.aftercare[0] ?? 'Let one run every night, and look at its date once a month.'}`,
  ]
}
