import { kinds } from './kinds'
import { RouteKind } from './kinds/route-kind'
import { mergedKind, nextBase, type FieldClash } from './merging'
import { PERIOD_NAMES, periodIn, withPeriod } from './periods'
import type { Playbook } from './playbook'

/**
 * A playbook that was stored by an earlier version, with the kinds of routes as they ship now: what the shop changed stays, field
 * by field, kinds that the shop made stay, and kinds that were not there yet come in.
 */
export function upToDate(stored: Playbook): Playbook {
  const own = new Map(stored.kinds.map((kind) => [kind.id, kind]))
  const bases = new Map(stored.bases.map((kind) => [kind.id, kind]))
  const shipped = shippedKinds().map((kind) => {
    const before = own.get(kind.id)
    const base = bases.get(kind.id)
    if (!before) return kind
    if (!base) return withPeriodsOf(kind, before)
    const merged = mergedKind(base, before, kind)
    bases.set(
      kind.id,
      nextBase(base, merged, kind, () => false),
    )
    return merged.kind
  })
  const ids = new Set(shipped.map(({ id }) => id))
  return {
    ...stored,
    kinds: [...shipped, ...stored.kinds.filter(({ id }) => !ids.has(id))],
    bases: [...bases.values()],
  }
}

/** Fields that both the shop and this version have changed since: the shop's stays until somebody decides. */
export function clashesOf({ kinds: ofShop, bases }: Playbook): FieldClash[] {
  return shippedKinds().flatMap((kind) => {
    const own = ofShop.find(({ id }) => id === kind.id)
    const base = bases.find(({ id }) => id === kind.id)
    return own && base ? mergedKind(base, own, kind).clashes : []
  })
}

/** The kinds of routes as this version ships them. */
export const shippedKinds = (): RouteKind[] => kinds.map((kind) => RouteKind.parse(kind))

// A playbook from before there were bases: of its shipped kinds only the periods were the shop's to change.
const withPeriodsOf = (kind: RouteKind, before: RouteKind): RouteKind =>
  PERIOD_NAMES.reduce((so, which) => {
    const period = periodIn(before, which)
    return (period && withPeriod(so, which, period)) ?? so
  }, kind)
