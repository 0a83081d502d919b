import { askingOf } from '../../core/cases/telling/asking'
import { frozenBy } from '../../core/cases/shape/freeze'
import { openingStop } from '../../core/cases/shape/permission'
import { Failure, refused } from '../failure'
import type { StoredCase } from './rows'

/** Throws a Failure where a case is stopped: whatever is there stays as it is. */
export function requireNotStopped({ case: ofCase }: Pick<StoredCase, 'case'>): void {
  if (frozenBy(ofCase.freezes)) throw refused('This case is stopped: device and data stay as they are.')
}

/**
 * The one rule for opening, listing, selecting and copying what clients brought: throws a Failure where that was refused,
 * and where it is not recorded that it may be opened.
 */
export function requireConsent({ case: ofCase }: Pick<StoredCase, 'case'>): void {
  if (ofCase.wiping.data) throw refused('The data of this case were wiped. Log a new case to begin again.')
  const stop = openingStop(ofCase)
  if (!stop) return
  throw new Failure('refused', `${stop.says} Nothing is opened, listed or copied.`, {
    safe: 'What was found before is kept. Record the answer on the case to go on.',
    fields: stop.asks.map((path) => ({ path, message: `ask first: ${askingOf(path)?.label.toLowerCase() ?? path}` })),
  })
}
