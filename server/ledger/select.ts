import { and, asc, desc, eq, gte, inArray, isNotNull, isNull, lt, sql, type SQL } from 'drizzle-orm'
import { deadlineOf, isDone, isLoggedIn } from '../../core/ledger/case-line'
import type { Lesson } from '../../core/ledger/drift'
import { damagedOf, endOf, isCounted, type EndedRun } from '../../core/ledger/ended-run'
import { bookOf, type LedgerCase } from '../../core/ledger/ledger'
import { isInHours } from '../../core/ledger/hours'
import { timeOf, type CaseFilter, type LedgerFilter } from '../../core/ledger/filter'
import { tenthOf } from '../../core/ledger/lamps'
import { DAY_MS } from '../../core/cases/shape/moment'
import type { Role } from '../../core/people/person'
import type { Playbook } from '../../core/playbook/playbook'
import type { Database } from '../db/open'
import { caseLines, cases, endedRuns } from '../db/tables'
import { seesStopped } from '../cases/visible'

/** Who reads the ledger, when, and by which playbook. */
export interface Reading {
  readonly role: Role
  readonly playbook: Playbook
  /** ms */
  readonly now: number
}

/** A run of the ledger, with the row of its case. */
export interface FoundRun extends EndedRun {
  readonly caseId: number
}

/** Runs of cases that are stopped are for owners alone, like these cases themselves. */
const visibleRuns = (role: Role): SQL | undefined =>
  seesStopped(role) ? undefined : sql`${endedRuns.caseId} not in (select id from cases where is_stopped)`

/** The runs that a filter asks for, without those of training cases; newest first. Those left out of the odds are among them. */
export function selectRuns(database: Database, filter: LedgerFilter, { role, playbook, now }: Reading): FoundRun[] {
  const { from, to } = timeOf(filter, now, playbook.shop.zone)
  const kinds = playbook.kinds.filter(({ family }) => family === filter.family).map(({ id }) => id)
  const known = playbook.kinds.map(({ id }) => id)
  const same = (column: Parameters<typeof eq>[0], value: string | undefined) =>
    value === undefined ? undefined : eq(column, value)
  const rows = database
    .select()
    .from(endedRuns)
    .where(
      and(
        gte(endedRuns.ended, Math.max(from, filter.since ?? 0)),
        lt(endedRuns.ended, to + 1),
        eq(endedRuns.isTraining, false),
        filter.out ? isNotNull(endedRuns.leftOut) : undefined,
        filter.first ? eq(endedRuns.isFirst, true) : undefined,
        same(endedRuns.device, filter.device),
        same(endedRuns.platform, filter.platform),
        same(endedRuns.type, filter.type),
        same(endedRuns.loss, filter.loss),
        same(endedRuns.by, filter.by),
        same(endedRuns.kind, filter.kind),
        filter.family === undefined
          ? undefined
          : filter.family === 'other'
            ? sql`${endedRuns.kind} not in ${known}`
            : inArray(endedRuns.kind, kinds),
        visibleRuns(role),
      ),
    )
    .orderBy(desc(endedRuns.ended))
    .all() as FoundRun[]
  const { family: familyOf } = bookOf(playbook.kinds)
  return rows.filter((run) => isAsked(run, filter, familyOf))
}

function isAsked(
  run: EndedRun,
  { end, tenth, out, hours, damaged }: LedgerFilter,
  familyOf: (kind: string) => string,
): boolean {
  // A figure counts no run that was left out; the list of those shows nothing else.
  const isFigure = end !== undefined || tenth !== undefined || hours !== undefined || damaged
  if (isFigure && !out && !isCounted(run)) return false
  if (hours !== undefined && !isInHours(run, familyOf(run.kind), hours)) return false
  if (damaged && damagedOf(run) === 0) return false
  if (end !== undefined && endOf(run) !== end) return false
  return tenth === undefined || (run.chance !== null && run.outcome !== null && tenthOf(run.chance) === tenth)
}

/** Everybody who has ended a run, by name. */
export const peopleOf = (database: Database): string[] =>
  database
    .selectDistinct({ by: endedRuns.by })
    .from(endedRuns)
    .where(eq(endedRuns.isTraining, false))
    .orderBy(asc(endedRuns.by))
    .all()
    .map(({ by }) => by)

/** Everything that the odds count, by kind and oldest first. */
export function selectLessons(database: Database, kind?: string): Map<string, Lesson[]> {
  const rows = database
    .select({
      kind: endedRuns.kind,
      ended: endedRuns.ended,
      came: sql<number | null>`json_extract(${endedRuns.outcome}, '$.came')`,
    })
    .from(endedRuns)
    .where(
      and(
        isNotNull(endedRuns.outcome),
        isNull(endedRuns.leftOut),
        eq(endedRuns.isTraining, false),
        kind === undefined ? undefined : eq(endedRuns.kind, kind),
      ),
    )
    .orderBy(asc(endedRuns.ended), asc(endedRuns.caseId))
    .all()
  const lessons = new Map<string, Lesson[]>()
  for (const { kind: of, ended, came } of rows) {
    if (came === null) continue
    const own = lessons.get(of)
    if (own) own.push({ ended, came })
    else lessons.set(of, [{ ended, came }])
  }
  return lessons
}

/** A case of the ledger, with the code that opens it. */
export interface FoundCase extends LedgerCase {
  readonly code: string
}

/** Cases that were logged from this moment on, and those that are open. */
export function selectCases(database: Database, from: number, to: number, role: Role): FoundCase[] {
  return database
    .select({ code: cases.code, line: caseLines.body, done: caseLines.done })
    .from(caseLines)
    .innerJoin(cases, eq(cases.id, caseLines.caseId))
    .where(
      and(
        sql`(${caseLines.logged} between ${from} and ${to} or ${caseLines.state} <> 'closed')`,
        seesStopped(role) ? undefined : eq(cases.isStopped, false),
      ),
    )
    .orderBy(desc(caseLines.logged))
    .all()
}

/** The cases behind a figure of the ledger. */
export function casesBehind(database: Database, filter: CaseFilter, { role, playbook, now }: Reading): FoundCase[] {
  const { from, to } = timeOf(filter, now, playbook.shop.zone)
  return selectCases(database, from, to, role).filter(({ line, done }) => {
    if (line.isTraining) return false
    const marked = (hold: string, mark: string) => line.holds.some((one) => one.hold === hold && one.mark === mark)
    const age = (now - (line.logged ?? now)) / DAY_MS
    // Ages are of cases that are open, whenever they were logged; all else is of cases of the period.
    if (filter.state === undefined && !isLoggedIn(line, { from, to })) return false
    return (
      (filter.state === undefined || line.state === filter.state) &&
      (filter.older === undefined || age >= filter.older) &&
      (filter.younger === undefined || age < filter.younger) &&
      (filter.waived === undefined || (isDone(line.state) && marked(filter.waived, 'waived'))) &&
      (filter.kept === undefined || (isDone(line.state) && marked(filter.kept, 'ticked'))) &&
      (filter.deadline === undefined || deadlineOf(line.deadline, done, now) === filter.deadline)
    )
  })
}
