import { askingOf } from '../../core/cases/telling/asking'
import { openingStop } from '../../core/cases/shape/permission'
import { Failure } from '../failure'
import type { StoredCase } from './rows'

/**
 * The one rule for opening, listing, selecting and copying what clients brought: throws a Failure where that was refused,
 * and where it is not recorded that it may be opened.
 */
export function requireConsent({ case: ofCase }: Pick<StoredCase, 'case'>): void {
  const stop = openingStop(ofCase)
  if (!stop) return
  throw new Failure('refused', `${stop.says} Nothing is opened, listed or copied.`, {
    safe: 'What was found before is kept. Record the answer on the case to go on.',
    fields: stop.asks.map((path) => ({ path, message: `ask first: ${askingOf(path)?.label.toLowerCase() ?? path}` })),
  })
}
