import type { Case } from '../shape/case'
import { factAt, overlaps, type Change, type FactPath } from './facts'
import { sameValue } from '../shape/same-value'

/** A fact that somebody else set since the version that this writer saw. */
export interface PastChange extends Change {
  readonly by: string
}

/** A fact that two people set differently; somebody has to choose. */
export interface Clash {
  readonly fact: FactPath
  readonly yours: unknown
  readonly theirs: unknown
  readonly by: string
}

export interface Merge {
  /** changes that can be made at once */
  readonly apply: Change[]
  readonly clashes: Clash[]
}

/**
 * Sorts what a writer sent into changes that can be made and clashes to settle, fact by fact. A fact that nobody else
 * touched since is set; one that somebody set to the same value is kept; one that somebody set differently is a clash
 * and does not change until it is settled.
 */
export function mergeByFact(current: Case, sent: readonly Change[], since: readonly PastChange[]): Merge {
  const apply: Change[] = []
  const clashes: Clash[] = []
  for (const change of sent) {
    const touched = since.findLast((past) => overlaps(past.fact, change.fact))
    const theirs = factAt(current, change.fact)
    if (!touched) apply.push(change)
    else if (!sameValue(theirs ?? null, change.is ?? null))
      clashes.push({ fact: change.fact, yours: change.is, theirs: theirs ?? null, by: touched.by })
  }
  return { apply, clashes }
}
