import { emptyCase, type Case } from '../cases/shape/case'
import { withFacts } from '../cases/facts/facts'
import { Run, type RunReportInput } from '../cases/shape/run'
import { DAY_MS, isoOf, type Moment } from '../cases/shape/moment'

/** Tuesday 24 November 2026, 10:42 in London: the time of the tests. */
export const NOW = Date.UTC(2026, 10, 24, 10, 42)

/** A range of time so many days ago. */
export const ago = (from: number, to = from): Moment => ({
  from: isoOf(NOW - from * DAY_MS),
  to: isoOf(NOW - to * DAY_MS),
})
export const ahead = (from: number, to = from): Moment => ago(-from, -to)

/** A case with these facts set; a fact that cannot be set is a fault of the test. */
export function caseWith(facts: Record<string, unknown>): Case {
  const set = withFacts(
    emptyCase(),
    Object.entries(facts).map(([fact, is]) => ({ fact, is })),
  )
  if (!set.ok) throw new Error(JSON.stringify(set.faults))
  return set.changed
}

/** A finished run with what it recovered of each wanted set. */
export function endedRun(results: RunReportInput['results'], more: Partial<Run> = {}): Run {
  return Run.parse({
    id: 'r1',
    option: 'x',
    kind: 'x',
    copy: null,
    title: 'x',
    by: 'Bram',
    started: isoOf(NOW),
    ended: isoOf(NOW + 5 * 60_000),
    handsOnMinutes: 5,
    money: 0,
    results,
    shelf: [],
    failedOn: null,
    note: '',
    predicted: null,
    ...more,
  })
}
