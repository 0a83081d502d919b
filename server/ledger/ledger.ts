import { inArray } from 'drizzle-orm'
import { stringify } from 'csv-stringify/sync'
import { isoOf } from '../../core/cases/shape/moment'
import type { KindLearned, LedgerAnswer, RunLine } from '../../core/ledger/answers'
import { cameOf, endOf } from '../../core/ledger/ended-run'
import { timeOf, type LedgerFilter } from '../../core/ledger/filter'
import { bookOf, ledgerOf } from '../../core/ledger/ledger'
import { courseOf, learnedOf } from '../../core/ledger/learning'
import type { RouteKind } from '../../core/playbook/kinds/route-kind'
import { genericTitle } from '../../core/playbook/periods'
import type { Playbook } from '../../core/playbook/playbook'
import type { Database } from '../db/open'
import { cases } from '../db/tables'
import { notFound } from '../failure'
import { peopleOf, selectCases, selectLessons, selectRuns, type FoundRun, type Reading } from './select'

/** The whole ledger of a period. */
export function readLedger(database: Database, filter: LedgerFilter, reading: Reading): LedgerAnswer {
  const { role, playbook, now } = reading
  const { from, to } = timeOf(filter, now, playbook.shop.zone)
  return ledgerOf({
    runs: selectRuns(database, filter, reading),
    cases: selectCases(database, from, to, role),
    lessons: selectLessons(database),
    kinds: playbook.kinds,
    from,
    to,
    now,
    people: role === 'owner' ? peopleOf(database) : null,
  })
}

/** So many lines are shown at a time; the CSV has all. */
const MAX_LINES = 500

/** The runs behind a figure. */
export function runsBehind(database: Database, filter: LedgerFilter, reading: Reading) {
  const runs = selectRuns(database, filter, reading)
  return { total: runs.length, runs: linesOf(database, runs.slice(0, MAX_LINES), reading.playbook) }
}

function linesOf(database: Database, runs: readonly FoundRun[], playbook: Playbook): RunLine[] {
  const ids = [...new Set(runs.map(({ caseId }) => caseId))]
  const found = database
    .select({ id: cases.id, code: cases.code, version: cases.version })
    .from(cases)
    .where(ids.length > MAX_LINES ? undefined : inArray(cases.id, ids))
    .all()
  const byId = new Map(found.map((one) => [one.id, one]))
  const { title } = bookOf(playbook.kinds)
  return runs.map((run) => ({
    code: byId.get(run.caseId)?.code ?? '',
    version: byId.get(run.caseId)?.version ?? 0,
    run: run.run,
    ended: run.ended,
    kind: run.kind,
    title: title(run.kind),
    device: run.device,
    type: run.type,
    loss: run.loss,
    by: run.by,
    end: endOf(run),
    chance: run.chance,
    came: cameOf(run),
    handsOn: run.handsOn,
    waiting: run.waiting,
    spent: run.spent,
    leftOut: run.leftOut,
  }))
}

const CSV_HEADERS = [
  'code',
  'run',
  'ended',
  'kind of route',
  'route',
  'device',
  'kind of data',
  'loss',
  'by',
  'end',
  'predicted chance',
  'share of what was in reach',
  'hands-on minutes',
  'waiting minutes',
  'money spent',
  'left out because',
]

/** The runs behind a figure as CSV (RFC 4180). A cell that a sheet would run as a formula begins with an apostrophe. */
export function runsAsCsv(database: Database, filter: LedgerFilter, reading: Reading): string {
  const lines = linesOf(database, selectRuns(database, filter, reading), reading.playbook).map((run) => [
    run.code,
    run.run,
    isoOf(run.ended),
    run.kind,
    run.title,
    run.device,
    run.type,
    run.loss,
    run.by,
    run.end,
    run.chance ?? '',
    run.came ?? '',
    run.handsOn,
    run.waiting,
    run.spent,
    run.leftOut ?? '',
  ])
  return stringify([CSV_HEADERS, ...lines], { escape_formulas: true, bom: true })
}

/** What the shop’s runs taught about every kind of route. */
export function allLearned(database: Database, { kinds }: Playbook): KindLearned[] {
  const lessons = selectLessons(database)
  return kinds.map((kind) => learnedLine(kind, lessons.get(kind.id) ?? []))
}

const learnedLine = (kind: RouteKind, lessons: Parameters<typeof learnedOf>[1]): KindLearned => ({
  kind: kind.id,
  title: genericTitle(kind),
  family: kind.family,
  note: kind.prior.note,
  ...learnedOf(kind.prior, lessons),
})

/** The same of one kind, with its course; throws a Failure where the playbook has no such kind. */
export function kindLearned(database: Database, { kinds }: Playbook, id: string) {
  const kind = kinds.find((one) => one.id === id)
  if (!kind) throw notFound('such kind of route')
  const lessons = selectLessons(database, id).get(id) ?? []
  return { ...learnedLine(kind, lessons), course: courseOf(kind.prior, lessons) }
}
