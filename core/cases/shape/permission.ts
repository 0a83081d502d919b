import type { Case } from './case'
import { known } from './fact'
import { frozenBy } from './freeze'

/** Why nothing of a client's may be opened yet, and the facts that would change it. */
export interface Stop {
  readonly code: 'stopped' | 'refused' | 'not-entitled' | 'not-recorded'
  /** in a sentence: what is missing, or who said no */
  readonly says: string
  /** the facts to record, in the order in which they are asked */
  readonly asks: readonly string[]
}

/**
 * Why nothing of the client's may be opened; null where it may. It needs to be recorded whose data it is, that this
 * person or somebody entitled agreed to it, and, for data of others, which proof was seen. Unknown stops it as well as no. A
 * case that was stopped stays as it is, whatever was agreed to.
 */
export function openingStop({
  authority,
  consent,
  freezes,
}: Pick<Case, 'authority' | 'consent' | 'freezes'>): Stop | null {
  if (frozenBy(freezes))
    return { code: 'stopped', says: 'The case is stopped: device and data stay as they are.', asks: [] }
  const look = consent.lookThrough.answer
  if (look === 'refused')
    return {
      code: 'refused',
      says: 'The client does not want their data looked through.',
      asks: ['consent.lookThrough.answer'],
    }
  if (authority.basis === 'none')
    return {
      code: 'not-entitled',
      says: 'Whoever brought it has no right to these data.',
      asks: ['authority.basis'],
    }
  const isOthers = known(authority.basis) && authority.basis !== 'own'
  if (isOthers && authority.proof === 'none')
    return {
      code: 'not-entitled',
      says: 'The data belong to somebody else, and no proof was seen that they may be opened.',
      asks: ['authority.proof'],
    }
  const asks = [
    !known(authority.basis) && 'authority.basis',
    isOthers && !known(authority.agreedBy) && 'authority.agreedBy',
    isOthers && !known(authority.proof) && 'authority.proof',
    !known(look) && 'consent.lookThrough.answer',
  ].filter((fact) => fact !== false)
  if (asks.length === 0) return null
  return { code: 'not-recorded', says: 'It is not recorded yet that the data may be opened.', asks }
}
