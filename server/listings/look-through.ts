import type { StoredCase } from '../cases/rows'
import { Failure } from '../failure'

/**
 * The one rule for listing, opening, selecting and copying what clients brought: throws a Failure where the client has
 * refused that their data are looked at.
 */
export function requireLookThrough({ case: ofCase }: Pick<StoredCase, 'case'>): void {
  if (ofCase.consent.lookThrough.answer !== 'refused') return
  throw new Failure(
    'refused',
    'The client does not want their data looked through: nothing is listed, opened or copied.',
    {
      safe: 'What was found before is kept. If the client agrees, record it on the case.',
    },
  )
}
