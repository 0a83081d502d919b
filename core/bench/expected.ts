import { known } from '../cases/shape/fact'
import { DAY_MS, spanOf, type Span } from '../cases/shape/moment'
import type { WantedSet } from '../cases/shape/wanted'

/** So many items a day in a range of time (ms). */
export interface PerDay extends Span {
  readonly perDay: number
}

/**
 * How many items of a set a client expects on each day, as ranges that add up: the whole time evenly, and on top of it
 * the parts in which more of them were made. Null where count or dates are not known.
 */
export function expectedPerDay(set: WantedSet): PerDay[] | null {
  if (!known(set.count) || !known(set.made)) return null
  const { count } = set
  const crowds = known(set.spread) ? set.spread : []
  const over = (span: Span, share: number): PerDay => ({
    ...span,
    perDay: (count * share) / Math.max(1, Math.ceil((span.to - span.from) / DAY_MS)),
  })
  const rest = Math.max(0, 1 - crowds.reduce((sum, { share }) => sum + share, 0))
  return [over(spanOf(set.made), rest), ...crowds.map(({ made, share }) => over(spanOf(made), share))]
}
