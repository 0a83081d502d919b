import { DAY_MS } from '../cases/shape/moment'
import { DEVICE_KIND_WORDS, LOSS_WORDS, PLATFORM_WORDS, TYPE_WORDS } from '../cases/telling/words'
import { FAMILY_WORDS } from '../playbook/family-words'
import { genericTitle } from '../playbook/periods'
import type { RouteKind } from '../playbook/kinds/route-kind'
import { AGE_BOUNDS, GROUPINGS, type ExplainedLamp, type Grouping, type LedgerAnswer, type RouteLine } from './answers'
import { deadlineOf, isDone, isLoggedIn, type CaseLine } from './case-line'
import { firstChoices, holdRecords } from './choices'
import type { Lesson } from './drift'
import { cameOf, isCounted, type EndedRun } from './ended-run'
import { hoursOf } from './hours'
import { lampsOf, tenthOf, type Lamp } from './lamps'
import { learnedOf, meansOf, thinned } from './learning'
import { talliesBy, tallyOf } from './tally'

/** A case, and when it was first ready for the client since it was last on the bench; null where it is not (ms). */
export interface LedgerCase {
  readonly line: CaseLine
  readonly done: number | null
}

/** Everything that the ledger is made from. */
export interface LedgerInput {
  /** the runs of the period, also those that were left out, without those of training cases */
  readonly runs: readonly EndedRun[]
  /** the cases that were logged in the period, and those that are open */
  readonly cases: readonly LedgerCase[]
  /** all runs that the odds count, of all time, by kind and oldest first */
  readonly lessons: ReadonlyMap<string, readonly Lesson[]>
  readonly kinds: readonly RouteKind[]
  /** the period, and now; ms */
  readonly from: number
  readonly to: number
  readonly now: number
  /** whether the figures of each person are shown */
  /** who has ever ended a run, for the filter; null for who does not see people */
  readonly people: readonly string[] | null
}

/** So many points draw the course of a line’s odds. */
const COURSE_POINTS = 40

/** What works here: tallies, lamps, hours, first choices, holds and deadlines of a period. */
export function ledgerOf(input: LedgerInput): LedgerAnswer {
  const runs = input.runs.filter(isCounted)
  const book = bookOf(input.kinds)
  const cases = input.cases.filter(({ line }) => !line.isTraining)
  const logged = cases.filter(({ line }) => isLoggedIn(line, input))
  return {
    total: tallyOf(runs),
    lamps: lampsWithCauses(runs, book),
    routes: talliesBy(runs, ({ kind }) => kind).map(([key, tally]) => ({
      ...routeLine(key, input, book),
      title: book.title(key),
      tally,
    })),
    groups: Object.fromEntries(
      GROUPINGS.map((by) => [
        by,
        by === 'by' && input.people === null
          ? []
          : talliesBy(runs, (run) => groupOf(run, by, book)).map(([key, tally]) => ({
              key,
              title: groupTitle(by, key),
              tally,
            })),
      ]),
    ) as LedgerAnswer['groups'],
    hours: hoursOf(runs, book.family).map(([group, minutes]) => ({ group, minutes })),
    firsts: firstChoices(runs).map((choice) => ({ ...choice, title: book.title(choice.kind) })),
    holds: holdRecords(logged.flatMap(({ line }) => (isDone(line.state) ? [line] : []))),
    deadlines: deadlinesOf(logged, input.now),
    open: openOf(cases, input.now),
    leftOut: input.runs.length - runs.length,
    people: [...(input.people ?? [])],
  }
}

export interface Book {
  readonly title: (kind: string) => string
  readonly family: (kind: string) => string
}

/** Steps that are of no kind in the playbook. */
const STEP_TITLES: Record<string, string> = { 'safety-copy': 'Safety copy' }

/** Titles and families of kinds, also of steps and of kinds that are in the playbook no more. */
export function bookOf(kinds: readonly RouteKind[]): Book {
  const known = new Map(kinds.map((kind) => [kind.id, kind]))
  return {
    title: (id) => {
      const kind = known.get(id)
      return kind ? genericTitle(kind) : (STEP_TITLES[id] ?? id.replaceAll('-', ' '))
    },
    family: (id) => known.get(id)?.family ?? 'other',
  }
}

function groupOf(run: EndedRun, by: Grouping, book: Book): string {
  return by === 'family' ? book.family(run.kind) : run[by]
}

function groupTitle(by: Grouping, key: string): string {
  const words: Record<string, string> = {
    family: FAMILY_WORDS,
    platform: PLATFORM_WORDS,
    device: DEVICE_KIND_WORDS,
    type: TYPE_WORDS,
    loss: LOSS_WORDS,
    by: {},
  }[by]
  return words[key] ?? (key === 'unknown' ? 'not known' : key === 'other' ? 'Repairs, safety copies, other' : key)
}

function routeLine(
  key: string,
  { kinds, lessons, from }: LedgerInput,
  book: Book,
): Pick<RouteLine, 'key' | 'title' | 'odds' | 'course' | 'drift'> {
  const kind = kinds.find(({ id }) => id === key)
  const own = lessons.get(key) ?? []
  if (!kind) return { key, title: book.title(key), odds: null, course: [], drift: null }
  const { odds, drift } = learnedOf(kind.prior, own)
  const course = meansOf(kind.prior, own).filter(([at]) => at >= from)
  return {
    key,
    title: book.title(key),
    odds,
    course: thinned(course, COURSE_POINTS),
    drift,
  }
}

/** The lamps, and of each that did not keep its word the kind that is behind most of the difference. */
function lampsWithCauses(runs: readonly EndedRun[], book: Book): ExplainedLamp[] {
  const promised = runs.flatMap((run) => {
    const came = cameOf(run)
    return run.chance === null || came === null ? [] : [{ chance: run.chance, came, kind: run.kind }]
  })
  return lampsOf(promised).map((lamp) => {
    const kind = lamp.isKept ? null : kindBehind(lamp, promised)
    return { ...lamp, mostly: kind === null ? null : { kind, title: book.title(kind) } }
  })
}

function kindBehind(lamp: Lamp, promised: readonly { chance: number; came: number; kind: string }[]): string | null {
  const off = new Map<string, number>()
  const side = Math.sign(lamp.actual - lamp.predicted)
  for (const { chance, came, kind } of promised)
    if (tenthOf(chance) === lamp.tenth) off.set(kind, (off.get(kind) ?? 0) + side * (came - chance))
  return [...off].sort((one, other) => other[1] - one[1])[0]?.[0] ?? null
}

function deadlinesOf(cases: readonly LedgerCase[], now: number): LedgerAnswer['deadlines'] {
  const count = { kept: 0, missed: 0, ahead: 0 }
  for (const { line, done } of cases) {
    const became = deadlineOf(line.deadline, done, now)
    if (became) count[became]++
  }
  return count
}

function openOf(cases: readonly LedgerCase[], now: number): LedgerAnswer['open'] {
  const states = ['logged', 'at-bench', 'waiting', 'ready', 'uncollected', 'handed-over'] as const
  return states.flatMap((state) => {
    const own = cases.filter(({ line }) => line.state === state)
    if (own.length === 0) return []
    const days = own.map(({ line }) => (now - (line.logged ?? now)) / DAY_MS)
    const ages = AGE_BOUNDS.map(
      (bound, at) => days.filter((age) => age >= bound && age < (AGE_BOUNDS[at + 1] ?? Infinity)).length,
    )
    return [{ state, ages }]
  })
}
