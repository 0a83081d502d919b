import { z } from 'zod'
import type { CaseLine } from './case-line'
import { endOf, type EndedRun } from './ended-run'
import { groupedBy } from './tally'

/** How often a kind came first in a case, and how often it was right: something came back. */
export const FirstChoice = z.object({
  kind: z.string(),
  first: z.int(),
  worked: z.int(),
  /** how many were expected to work */
  expected: z.number(),
  /** how often it was also the first of the plan */
  asPlanned: z.int(),
})
export type FirstChoice = z.infer<typeof FirstChoice>

/** The first runs of cases, by kind; most frequent first. */
export const firstChoices = (runs: readonly EndedRun[]): FirstChoice[] =>
  groupedBy(
    runs.filter(({ isFirst }) => isFirst),
    ({ kind }) => kind,
  ).map(([kind, firsts]) => ({
    kind,
    first: firsts.length,
    worked: firsts.filter((run) => endOf(run) === 'worked').length,
    expected: firsts.reduce((sum, { chance }) => sum + (chance ?? 0), 0),
    asPlanned: firsts.filter(({ place }) => place === 1).length,
  }))

/** A kind of hold: cases in which it was waived or kept, and the share that came back of each, null where nobody counted. */
export const HoldRecord = z.object({
  hold: z.string(),
  waived: z.int(),
  waivedBack: z.number().nullable(),
  kept: z.int(),
  keptBack: z.number().nullable(),
})
export type HoldRecord = z.infer<typeof HoldRecord>

/** What was waived, and what came of it beside the cases in which the same hold was kept. Only cases that have ended. */
export function holdRecords(cases: readonly CaseLine[]): HoldRecord[] {
  const kinds = [...new Set(cases.flatMap(({ holds }) => holds.map(({ hold }) => hold)))]
  return kinds
    .map((hold) => {
      const marked = (mark: string) =>
        cases.filter(({ holds }) => holds.some((one) => one.hold === hold && one.mark === mark))
      const [waived, kept] = [marked('waived'), marked('ticked')]
      return {
        hold,
        waived: waived.length,
        waivedBack: meanBack(waived),
        kept: kept.length,
        keptBack: meanBack(kept),
      }
    })
    .filter(({ waived }) => waived > 0)
    .sort((one, other) => other.waived - one.waived || one.hold.localeCompare(other.hold))
}

function meanBack(cases: readonly CaseLine[]): number | null {
  const shares = cases.flatMap(({ back }) => (back === null ? [] : [back]))
  return shares.length === 0 ? null : shares.reduce((sum, share) => sum + share, 0) / shares.length
}
