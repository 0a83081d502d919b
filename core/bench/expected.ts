import { known } from '../cases/shape/fact'
import { DAY_MS, spanOf } from '../cases/shape/moment'
import type { WantedSet } from '../cases/shape/wanted'

/** How many items of a set a client expects on each day of its span, where its count and dates are known. */
export function expectedPerDay(
  set: WantedSet,
): { readonly from: number; readonly to: number; readonly perDay: number } | null {
  if (!known(set.count) || !known(set.made)) return null
  const { from, to } = spanOf(set.made)
  return { from, to, perDay: set.count / Math.max(1, Math.ceil((to - from) / DAY_MS)) }
}
