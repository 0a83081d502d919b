import { and, eq, gt, isNull, lte, ne, or } from 'drizzle-orm'
import type { Playbook } from '../../core/playbook/playbook'
import { fullPlanOf } from '../../core/ranking/explain/plan'
import { ENGINE_REVISION, type FullPlan } from '../../core/ranking/situation/plan-shape'
import type { Database } from '../db/open'
import { cases, plans } from '../db/tables'
import { playbookRevision } from '../settings'
import { readEvidence } from './evidence'
import { readStored, type StoredCase } from './rows'
import { summaryOf } from './summary'

/** With which playbook, and at which time, plans are computed. */
export interface Planning {
  readonly playbook: Playbook
  readonly now: number
}

type Depth = 'order' | 'whole'

/** Later than anything that closes. */
export const NEVER_CLOSES = 9e15

/** Which playbook and which engine a plan was made with. */
const revisionOf = (database: Database) => playbookRevision(database) * 1000 + ENGINE_REVISION

/** The stored plan of a case; computed again where the case, the playbook or the time has moved on. */
export function planOfStored(database: Database, stored: StoredCase, planning: Planning, depth: Depth): FullPlan {
  const row = database.select().from(plans).where(eq(plans.caseId, stored.id)).get()
  const isCurrent =
    row?.caseVersion === stored.version &&
    row.revision === revisionOf(database) &&
    Date.parse(row.until) > planning.now &&
    Date.parse(row.madeAt) <= planning.now
  if (row && isCurrent && (row.depth === 'whole' || depth === 'order')) return JSON.parse(row.body) as FullPlan
  return keepPlan(database, stored, planning, depth)
}

/** Computes the plan of a case and stores it with the moment until which it holds. */
export function keepPlan(database: Database, stored: StoredCase, planning: Planning, depth: Depth): FullPlan {
  const { playbook, now } = planning
  const full = fullPlanOf(stored.case, playbook, now, { evidence: readEvidence(database), depth })
  const summary = summaryOf(stored.case, full, playbook.shop)
  const row = {
    caseId: stored.id,
    caseVersion: stored.version,
    revision: revisionOf(database),
    madeAt: new Date(now).toISOString(),
    until: full.plan.until ?? new Date(now + 3_600_000).toISOString(),
    depth,
    waits: summary.waitCost,
    closes: summary.closes[0] ? Date.parse(summary.closes[0]) : NEVER_CLOSES,
    body: JSON.stringify(full),
    summary: JSON.stringify(summary),
  }
  database.insert(plans).values(row).onConflictDoUpdate({ target: plans.caseId, set: row }).run()
  return full
}

/** Computes again the plans of open cases that are out of date, at most `most` of them; returns how many there were. */
export function renewPlans(database: Database, planning: Planning, most: number): number {
  const now = new Date(planning.now).toISOString()
  const stale = database
    .select({ code: cases.code })
    .from(cases)
    .leftJoin(plans, eq(plans.caseId, cases.id))
    .where(
      and(
        ne(cases.state, 'closed'),
        or(
          isNull(plans.caseId),
          ne(plans.caseVersion, cases.version),
          ne(plans.revision, revisionOf(database)),
          lte(plans.until, now),
          // A clock that was set back leaves plans dated in the future.
          gt(plans.madeAt, now),
        ),
      ),
    )
    .limit(most)
    .all()
  const failures: unknown[] = []
  for (const { code } of stale)
    try {
      keepPlan(database, readStored(database, code), planning, 'order')
    } catch (error) {
      // One case that cannot be planned must not stop the others.
      failures.push(error)
    }
  if (failures.length > 0) throw new AggregateError(failures, `${failures.length} plans could not be made`)
  return stale.length
}
