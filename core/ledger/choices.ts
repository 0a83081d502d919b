import type { CaseLine } from './case-line'
import { endOf, type EndedRun } from './ended-run'

/** How often a kind came first in a case, and how often it was right: something came back. */
export interface FirstChoice {
  readonly kind: string
  readonly first: number
  readonly worked: number
  /** of those with a prediction: how many were expected to work */
  readonly expected: number
  /** how often it was also the first of the plan */
  readonly asPlanned: number
}

/** The first run of each case, by kind; most frequent first. Runs of one case share its id. */
export function firstChoices(runs: readonly (EndedRun & { readonly caseId: number })[]): FirstChoice[] {
  const firsts = new Map<number, EndedRun>()
  for (const run of runs) {
    const so = firsts.get(run.caseId)
    if (endOf(run) !== 'undecided' && (!so || run.ended < so.ended)) firsts.set(run.caseId, run)
  }
  const kinds = new Map<string, FirstChoice>()
  for (const run of firsts.values()) {
    const so = kinds.get(run.kind) ?? { kind: run.kind, first: 0, worked: 0, expected: 0, asPlanned: 0 }
    kinds.set(run.kind, {
      ...so,
      first: so.first + 1,
      worked: so.worked + (endOf(run) === 'worked' ? 1 : 0),
      expected: so.expected + (run.chance ?? 0),
      asPlanned: so.asPlanned + (run.place === 1 ? 1 : 0),
    })
  }
  return [...kinds.values()].sort((one, other) => other.first - one.first || one.kind.localeCompare(other.kind))
}

/** A kind of hold: cases in which it was waived or kept, and the share that came back of each, null where nobody counted. */
export interface HoldRecord {
  readonly hold: string
  readonly waived: number
  readonly waivedBack: number | null
  readonly kept: number
  readonly keptBack: number | null
}

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
