import { z } from 'zod'

const count = z.int().min(0)

/** Some of the items of a group, to be looked at. */
const Sample = z.object({ id: z.int(), name: z.string(), hasThumb: z.boolean() })

/** What is on the shelf of one wanted set from one day; `day` is null for items without a date. */
export const BackGroup = z.object({
  day: z.iso.date().nullable(),
  count,
  damaged: count,
  unverified: count,
  samples: z.array(Sample),
})
export type BackGroup = z.infer<typeof BackGroup>

/** What came back of a case, by wanted set and day, for going through it with the client. */
export const BackAnswer = z.object({
  shop: z.string(),
  sets: z.array(z.object({ wanted: z.string().nullable(), groups: z.array(BackGroup) })),
})
export type BackAnswer = z.infer<typeof BackAnswer>

/** The most items of a group that are shown. */
export const MAX_SAMPLES = 12
