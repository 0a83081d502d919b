import { kinds } from './kinds'
import { RouteKind } from './kinds/route-kind'
import { PERIOD_NAMES, periodIn, withPeriod } from './periods'
import type { Playbook } from './playbook'

/**
 * A playbook that was stored by an earlier version, with the kinds of routes as they ship now: the shop's own periods
 * stay, kinds that the shop made stay, and kinds that were not there yet come in.
 */
export function upToDate(stored: Playbook): Playbook {
  const own = new Map(stored.kinds.map((kind) => [kind.id, kind]))
  const shipped = kinds.map((input) => {
    const kind = RouteKind.parse(input)
    const before = own.get(kind.id)
    return before ? withPeriodsOf(kind, before) : kind
  })
  const ids = new Set(shipped.map(({ id }) => id))
  return { ...stored, kinds: [...shipped, ...stored.kinds.filter(({ id }) => !ids.has(id))] }
}

const withPeriodsOf = (kind: RouteKind, before: RouteKind): RouteKind =>
  PERIOD_NAMES.reduce((so, which) => {
    const period = periodIn(before, which)
    return (period && withPeriod(so, which, period)) ?? so
  }, kind)
