import type { Case } from '../../cases/shape/case'
import { known } from '../../cases/shape/fact'
import { DAY_MS, spanOf, type Span } from '../../cases/shape/moment'

export interface LossRange extends Span {
  /** false where nobody said when, and the range is only what cannot be ruled out */
  readonly isKnown: boolean
}

/** How far back a loss is assumed to lie at most while nobody knows when it was, in days. */
const FURTHEST_DAYS = 60

/** A loss that is still to come: as it was said, else some time in the next 60 days. */
function lossAhead({ loss: { when } }: Case, now: number): LossRange {
  if (!known(when)) return { from: now, to: now + FURTHEST_DAYS * DAY_MS, isKnown: false }
  const told = spanOf(when)
  const from = Math.max(told.from, now)
  return { from, to: Math.max(told.to, from), isKnown: true }
}

/**
 * When the loss happened: the range as stated, never later than it was noticed or than now. Where it is unknown, it is
 * some time in the last 60 days, and not before the newest wanted items were created.
 */
export function lossRangeOf(ofCase: Case, now: number): LossRange {
  const { when, noticed } = ofCase.loss
  if (ofCase.loss.how === 'not-lost-yet') return lossAhead(ofCase, now)
  const last = Math.min(now, known(noticed) ? spanOf(noticed).to : now)
  if (known(when)) {
    const told = spanOf(when)
    const to = Math.max(Math.min(told.to, last), Math.min(told.from, now))
    return { from: Math.min(told.from, to), to, isKnown: true }
  }
  const newest = Math.max(...ofCase.wanted.map((set) => (known(set.made) ? spanOf(set.made).to : -Infinity)))
  const from = Math.max(last - FURTHEST_DAYS * DAY_MS, Math.min(newest, last))
  return { from, to: last, isKnown: false }
}
