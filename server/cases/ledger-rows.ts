import { eq } from 'drizzle-orm'
import { Case } from '../../core/cases/shape/case'
import { sameValue } from '../../core/cases/shape/same-value'
import { caseLineOf, isDone } from '../../core/ledger/case-line'
import { endedRunsOf, fromElsewhere } from '../../core/ledger/ended-run'
import type { Database } from '../db/open'
import type { Handle } from '../db/history/keys'
import { keepSetting, readSetting } from '../db/setting'
import { caseLines, cases, endedRuns, history } from '../db/tables'

/** How rows are made from cases: a change of it makes them all anew. */
const VERSION = '1'
const KEY = 'ledger-rows'
const LEARNED_KEY = 'learned'

/** Goes up whenever the odds have something new to learn. */
export const lastLearned = (handle: Handle): number => Number(readSetting(handle, LEARNED_KEY) ?? 0)

/** Writes the figures of a case and of its ended runs, in the transaction that stores the case. `now`: ms. */
export function keepInLedger(handle: Handle, caseId: number, ofCase: Case, now: number): void {
  keepCase(handle, caseId, ofCase, now)
  const before = handle.select().from(endedRuns).where(eq(endedRuns.caseId, caseId)).all()
  const rows = endedRunsOf(ofCase).map((run) => ({ caseId, ...run }))
  const changed = rows.filter((row) => !sameValue(before.find(({ run }) => run === row.run) ?? null, row))
  for (const row of changed)
    handle
      .insert(endedRuns)
      .values(row)
      .onConflictDoUpdate({ target: [endedRuns.caseId, endedRuns.run], set: row })
      .run()
  if (changed.length > 0) keepSetting(handle, LEARNED_KEY, String(lastLearned(handle) + 1))
}

function keepCase(handle: Handle, caseId: number, ofCase: Case, now: number): void {
  const line = caseLineOf(ofCase)
  const before = handle.select({ done: caseLines.done }).from(caseLines).where(eq(caseLines.caseId, caseId)).get()
  // Where the case is new here, the time of its present state is the best that is known.
  const since = before ? now : Date.parse(ofCase.state.since ?? new Date(now).toISOString())
  const done = isDone(line.state) ? (before?.done ?? since) : null
  const row = { caseId, logged: line.logged, state: line.state, done, body: line }
  handle.insert(caseLines).values(row).onConflictDoUpdate({ target: caseLines.caseId, set: row }).run()
}

/** Makes the rows of all cases where there are none yet, or such of an earlier version. */
export function fillLedger(database: Database): void {
  if (readSetting(database, KEY) === VERSION) return
  database.transaction(
    (handle) => {
      if (readSetting(handle, KEY) === null) markEarlierImports(handle)
      for (const { id, body } of handle.select({ id: cases.id, body: cases.body }).from(cases).all())
        keepInLedger(handle, id, Case.parse(JSON.parse(body)), 0)
      keepSetting(handle, KEY, VERSION)
    },
    { behavior: 'immediate' },
  )
}

/** Runs that came with an imported case did not count before there were rows, and do not now. */
function markEarlierImports(handle: Handle): void {
  const imported = handle.select().from(history).where(eq(history.kind, 'imported')).all()
  for (const { caseId, at, by } of imported) {
    const row = handle.select({ body: cases.body }).from(cases).where(eq(cases.id, caseId)).get()
    if (!row) continue
    const ofCase = Case.parse(JSON.parse(row.body))
    const runs = ofCase.runs.map((run) => (run.ended !== null && run.ended <= at ? fromElsewhere(run, by, at) : run))
    handle
      .update(cases)
      .set({ body: JSON.stringify({ ...ofCase, runs }) })
      .where(eq(cases.id, caseId))
      .run()
  }
}
