import { asc } from 'drizzle-orm'
import { stringify } from 'csv-stringify/sync'
import { CASE_LIST_HEADERS, readLine, type CaseList, type CaseListAnswer } from '../../core/exchange/case-list'
import { caseLine, RUN_LIST_HEADERS, runLines } from '../../core/exchange/csv-lists'
import { Case } from '../../core/cases/shape/case'
import type { AnswerContext } from '../../core/cases/telling/answering'
import type { Role } from '../../core/people/person'
import type { Playbook } from '../../core/playbook/playbook'
import { visibleTo } from '../cases/visible'
import type { Writer } from '../cases/rows'
import { logCase } from '../cases/writing/log'
import { writing } from '../cases/writing/writing'
import { cases } from '../db/tables'
import { refused } from '../failure'

const contextOf = ({ shop: { zone, currency } }: Playbook, now: number): AnswerContext => ({ zone, currency, now })

/** All cases, or all their runs, as CSV (RFC 4180). A cell that a sheet would run as a formula begins with an apostrophe. */
export function listOf(what: 'cases' | 'runs', role: Role, playbook: Playbook, now: number): string {
  const { database } = useLantern()
  const rows = database.select({ body: cases.body }).from(cases).where(visibleTo(role)).orderBy(asc(cases.id)).all()
  const context = contextOf(playbook, now)
  const lines = rows.flatMap(({ body }) => {
    const ofCase = Case.parse(JSON.parse(body))
    return what === 'cases' ? [caseLine(ofCase, context)] : runLines(ofCase)
  })
  return stringify([what === 'cases' ? CASE_LIST_HEADERS : RUN_LIST_HEADERS, ...lines], {
    escape_formulas: true,
    bom: true,
  })
}

/** Reads a list; writes its cases where that is asked for and every line of it can be read, all in one transaction. */
export function takeList(list: CaseList, playbook: Playbook, writer: Writer): CaseListAnswer {
  const { database } = useLantern()
  const read = list.lines.map((cells) => readLine(cells, list.columns, contextOf(playbook, writer.now)))
  const lines = read.map(({ says, faults }, at) => ({ line: at + 1, says, faults: [...faults] }))
  if (!list.writes) return { lines, codes: [] }
  const good = read.filter(({ faults }) => faults.length === 0)
  if (good.length < read.length && !list.leavesOutFaulty)
    throw refused(`${read.length - good.length} lines have faults. Correct them, or leave them out.`)
  if (good.length === 0) throw refused('No line of this list can be imported.')
  const codes = writing(database, () =>
    good.map(
      ({ changes, logged, note }) => logCase(database, changes, playbook, writer, { logged, note }).stored.case.code,
    ),
  )
  return { lines, codes }
}
