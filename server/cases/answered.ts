import type { CaseAnswer } from '../../core/cases/facts/writing'
import type { Written } from './writing/writing'

/** What a write answers: the case as it now is, its version, and what has to be asked about. */
export function answered({ stored, clashes }: Written): CaseAnswer {
  return { version: stored.version, case: stored.case, clashes: [...clashes] }
}
