import { and, asc, desc, eq, inArray, lt, ne, sql } from 'drizzle-orm'
import type { CaseSummary, CounterAnswer } from '../../core/cases/shape/summary'
import type { Role } from '../../core/people/person'
import type { Database } from '../db/open'
import { cases, plans } from '../db/tables'
import { NEVER_CLOSES, renewPlans, type Planning } from './plans'
import { visibleTo } from './visible'

/** Rows of the counter's table, ordered by what waiting costs. */
const MAX_LISTED = 200
/** Further cases for the closing line, ordered by what closes next. */
const MAX_CLOSING = 120
/** At most this many outdated plans are computed before the counter is answered; the rest follow in the background. */
const RENEWED_AT_ONCE = 24

/** The open cases by what waiting costs, read from the stored plans, including those that close next. */
export function openCases(database: Database, planning: Planning, role: Role): Omit<CounterAnswer, 'asks'> {
  renewPlans(database, planning, RENEWED_AT_ONCE)
  const isOpen = and(ne(cases.state, 'closed'), visibleTo(role))
  const total =
    database
      .select({ count: sql<number>`count(*)` })
      .from(cases)
      .where(isOpen)
      .get()?.count ?? 0
  const ids = new Set<number>()
  const listed = database
    .select({ id: plans.caseId })
    .from(plans)
    // The order of the plans decides: their index is walked, and each case looked up.
    .crossJoin(cases)
    .where(and(eq(plans.caseId, cases.id), isOpen))
    .orderBy(desc(plans.waits), asc(plans.closes), desc(plans.caseId))
    .limit(MAX_LISTED)
    .all()
  const closing = database
    .select({ id: plans.caseId })
    .from(plans)
    .innerJoin(cases, eq(plans.caseId, cases.id))
    .where(and(lt(plans.closes, NEVER_CLOSES), visibleTo(role)))
    .orderBy(asc(plans.closes))
    .limit(MAX_CLOSING)
    .all()
  for (const { id } of [...listed, ...closing]) ids.add(id)
  const summaries = ids.size === 0 ? [] : summariesOf(database, [...ids])
  return { total, cases: summaries.filter((summary) => summary.stateName !== 'closed').sort(byWaiting) }
}

function summariesOf(database: Database, ids: readonly number[]): CaseSummary[] {
  return database
    .select({ summary: plans.summary })
    .from(plans)
    .where(inArray(plans.caseId, [...ids]))
    .all()
    .map((row) => JSON.parse(row.summary) as CaseSummary)
}

const byWaiting = (one: CaseSummary, other: CaseSummary) =>
  other.waitCost - one.waitCost || closingOf(one) - closingOf(other) || other.code.localeCompare(one.code)
const closingOf = (summary: CaseSummary) => (summary.closes[0] ? Date.parse(summary.closes[0]) : NEVER_CLOSES)
