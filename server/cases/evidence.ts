import { and, eq, isNotNull, isNull } from 'drizzle-orm'
import { evidenceOf, type Evidence } from '../../core/ranking/situation/evidence'
import type { Database } from '../db/open'
import { endedRuns } from '../db/tables'
import { lastLearned } from './ledger-rows'

const kept = new WeakMap<Database, { readonly last: number; readonly evidence: Evidence }>()

/** What the shop's own runs have taught so far: those that were left out with a reason, and those of training, teach nothing. */
export function readEvidence(database: Database): Evidence {
  const last = lastLearned(database)
  const before = kept.get(database)
  if (before?.last === last) return before.evidence
  const rows = database
    .select({ outcome: endedRuns.outcome })
    .from(endedRuns)
    .where(and(isNotNull(endedRuns.outcome), isNull(endedRuns.leftOut), eq(endedRuns.isTraining, false)))
    .all()
  const evidence = evidenceOf(rows.flatMap(({ outcome }) => outcome ?? []))
  kept.set(database, { last, evidence })
  return evidence
}
