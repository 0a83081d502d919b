import { z } from 'zod'
import { sameValue } from '../cases/shape/same-value'
import { RouteKind } from './kinds/route-kind'

/** A field that the shop changed and that the shipped playbook has changed, too. */
export const FieldClash = z.object({
  kind: z.string(),
  /** such as `prior.chance` */
  field: z.string(),
  own: z.unknown(),
  shipped: z.unknown(),
})
export type FieldClash = z.infer<typeof FieldClash>

export interface Merged {
  readonly kind: RouteKind
  readonly clashes: readonly FieldClash[]
}

type Fields = Readonly<Record<string, unknown>>

/** Fields whose parts are merged one by one; all others are merged whole. */
const IN_PARTS: readonly string[] = ['prior', 'time', 'money', 'sheet', 'finds', 'effects']

/**
 * One kind of route, merged by field: what only the shop changed stays as the shop has it, what only the new version changed comes
 * in, and where both changed the same field the shop's stays and is returned as a clash. `base`: as shipped when the shop changed it.
 */
export function mergedKind(base: RouteKind, own: RouteKind, shipped: RouteKind): Merged {
  const clashes: FieldClash[] = []
  const merge = (before: Fields, ours: Fields, theirs: Fields, path: string): Record<string, unknown> => {
    const result: Record<string, unknown> = {}
    for (const key of new Set([...Object.keys(before), ...Object.keys(ours), ...Object.keys(theirs)])) {
      const field = path + key
      const [was, mine, shippedNow] = [before[key], ours[key], theirs[key]]
      const parts = [was, mine, shippedNow].every((value) => typeof value === 'object' && value !== null)
      if (IN_PARTS.includes(field) && parts) {
        result[key] = merge(was as Fields, mine as Fields, shippedNow as Fields, `${field}.`)
        continue
      }
      const isOwn = !same(mine, was)
      if (isOwn && !same(shippedNow, was) && !same(mine, shippedNow))
        clashes.push({ kind: own.id, field, own: mine, shipped: shippedNow })
      const value = isOwn ? mine : shippedNow
      if (value !== undefined) result[key] = value
    }
    return result
  }
  return { kind: RouteKind.parse(merge(base, own, shipped, '')), clashes }
}

const same = (one: unknown, other: unknown) => sameValue(one ?? null, other ?? null)

/** The same kind with one field of another, where the shop takes the shipped one. */
export function withField(kind: RouteKind, field: string, value: unknown): RouteKind {
  const [first, second] = field.split('.')
  const changed =
    second === undefined
      ? { ...kind, [first!]: value }
      : { ...kind, [first!]: { ...(kind[first as keyof RouteKind] as object), [second]: value } }
  return RouteKind.parse(changed)
}

const fieldOf = (kind: RouteKind, field: string): unknown =>
  field.split('.').reduce<unknown>((value, key) => (value as Fields | undefined)?.[key], kind)

/**
 * What the next version is merged against: as shipped now, but for clashes that nobody has settled, which are as shipped when the
 * shop changed them.
 */
export function nextBase(
  base: RouteKind,
  { clashes }: Merged,
  shipped: RouteKind,
  isSettled: (field: string) => boolean,
): RouteKind {
  return clashes
    .filter(({ field }) => !isSettled(field))
    .reduce((so, { field }) => withField(so, field, fieldOf(base, field)), shipped)
}
