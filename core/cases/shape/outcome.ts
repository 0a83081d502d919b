import type { Case } from './case'
import { known } from './fact'
import { undamagedOf } from './run'

export interface SetOutcome {
  readonly wanted: string
  /** rough number wanted, or null where it is not known */
  readonly of: number | null
  readonly back: number
  readonly whole: number
  /** back without damage, but unverified */
  readonly unverified: number
}

/**
 * What has come back so far, per wanted set, summed over all runs. Runs count only items that no earlier run brought,
 * so nothing is counted twice.
 */
export function outcomeOf(ofCase: Case): SetOutcome[] {
  return ofCase.wanted.map((set) => {
    const results = ofCase.runs.flatMap((run) => run.results).filter((result) => result.wanted === set.id)
    return {
      wanted: set.id,
      of: known(set.count) ? set.count : null,
      back: results.reduce((sum, result) => sum + result.back, 0),
      whole: results.reduce((sum, result) => sum + result.whole, 0),
      unverified: results.reduce((sum, result) => sum + result.unverified, 0),
    }
  })
}

/** The share of what was wanted that is back without damage, over the sets whose number is known; null where none is. */
export function backShareOf(ofCase: Case): number | null {
  const shares = outcomeOf(ofCase).flatMap((set) => (set.of === null ? [] : [Math.min(1, undamagedOf(set) / set.of)]))
  return shares.length === 0 ? null : shares.reduce((sum, share) => sum + share, 0) / shares.length
}
