import { z } from 'zod'
import { kinds } from './kinds'
import { RouteKind } from './kinds/route-kind'
import { Shop } from './shop'

export const PLAYBOOK_FORMAT = 'russet-lantern/playbook'

/** The shop's catalogue of routes, with what else it decides: hours and weights. */
export const Playbook = z.object({
  format: z.literal(PLAYBOOK_FORMAT),
  version: z.literal(1),
  shop: Shop.prefault({}),
  kinds: z
    .array(RouteKind)
    .max(200)
    .refine((list) => new Set(list.map((kind) => kind.id)).size === list.length, 'two kinds have the same id')
    .default(() => kinds.map((kind) => RouteKind.parse(kind))),
  /** shipped kinds that the shop has changed, as they were shipped then: a later version is merged by field */
  bases: z.array(RouteKind).max(200).default([]),
})
export type Playbook = z.infer<typeof Playbook>

/** The playbook that ships with the product, for a shop with these particulars. */
export function defaultPlaybook(shop: z.input<typeof Shop> = {}): Playbook {
  return Playbook.parse({ format: PLAYBOOK_FORMAT, version: 1, shop })
}

/** The playbook as JSON Schema, draft 2020-12, as a reader of playbook files would use it. */
export function playbookJsonSchema(): object {
  return z.toJSONSchema(Playbook, { io: 'input', target: 'draft-2020-12' })
}
