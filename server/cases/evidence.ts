import { max } from 'drizzle-orm'
import { evidenceOf, outcomesOf, RunOutcome, type Evidence } from '../../core/ranking/situation/evidence'
import type { Case } from '../../core/cases/shape/case'
import type { Database } from '../db/open'
import { outcomes } from '../db/tables'
import type { Handle } from './rows'

const kept = new WeakMap<Database, { readonly last: number; readonly evidence: Evidence }>()

/** What the shop's own runs have taught so far. */
export function readEvidence(database: Database): Evidence {
  const last = lastLearned(database)
  const before = kept.get(database)
  if (before?.last === last) return before.evidence
  const rows = database.select({ body: outcomes.body }).from(outcomes).all()
  const evidence = evidenceOf(rows.map((row) => RunOutcome.parse(JSON.parse(row.body))))
  kept.set(database, { last, evidence })
  return evidence
}

/** Goes up with every run that has taught something. */
export function lastLearned(database: Database): number {
  return (
    database
      .select({ id: max(outcomes.id) })
      .from(outcomes)
      .get()?.id ?? 0
  )
}

/** Stores what an ended run teaches, in the transaction that ends it. */
export function keepOutcome(handle: Handle, caseId: number, ofCase: Case, runId: string, at: string): void {
  const run = ofCase.runs.find((one) => one.id === runId)
  const [outcome] = outcomesOf({ ...ofCase, runs: run ? [run] : [] })
  if (outcome)
    handle
      .insert(outcomes)
      .values({ caseId, runId, at, body: JSON.stringify(outcome) })
      .run()
}
