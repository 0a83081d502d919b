import { DAY_MS, MINUTE_MS, spanOf } from '../../cases/shape/moment'
import { known } from '../../cases/shape/fact'
import type { RouteOption } from './options'
import type { Situation } from '../situation/situation'

/** A plan is computed again at least this often: words such as "tomorrow", and what fades with use, go stale. */
const LONGEST_MS = 6 * 60 * MINUTE_MS
const SHORTEST_MS = 15 * MINUTE_MS
/** While a window is closing, the plan is computed again after this part of the rest. */
const PART_OF_CLOSING = 0.05

/** Until when (ms) a plan holds: until the first closing or event ahead, and part of the way through one under way. */
export function holdsUntil(options: readonly RouteOption[], { now, ofCase, ticked }: Situation): number {
  const closings = options.map(({ window }) => [window.earliest, window.latest] as const)
  const { deadline } = ofCase.limits
  const due = known(deadline) ? [[spanOf(deadline).from, spanOf(deadline).to] as const] : []
  const replaced = ofCase.copies.flatMap((copy) =>
    known(copy.replaced) && !ticked.has(`stop-backup-${copy.id}`)
      ? [[spanOf(copy.replaced).from, spanOf(copy.replaced).to] as const]
      : [],
  )
  let until = now + LONGEST_MS
  for (const [earliest, latest] of [...closings, ...due, ...replaced]) {
    if (earliest !== null && earliest > now) until = Math.min(until, earliest)
    else if (latest !== null && latest > now)
      until = Math.min(until, now + Math.max(SHORTEST_MS, Math.min(DAY_MS, (latest - now) * PART_OF_CLOSING)))
  }
  return Math.max(until, now + MINUTE_MS)
}
