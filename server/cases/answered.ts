import type { CaseAnswer } from '../../core/cases/facts/writing'
import type { Written } from './writing/writing'

/** The answer to a write: the case as it is now, its version, and the clashes to settle. */
export function answered({ stored, clashes }: Written): CaseAnswer {
  return { version: stored.version, case: stored.case, clashes: [...clashes] }
}
