import { z } from 'zod'
import { DATA_TYPES, DataType } from '../cases/shape/data-types'
import { instant } from '../cases/shape/moment'
import { WHOLENESS } from '../files/wholeness'
import { LinkItem, PRESENCES } from './item'
import { Evidence } from './medium'

const day = z.string().regex(/^\d{4}-\d\d-\d\d$/, 'is not a day')

/** What the sentence over the found list says; every word that is missing says "any". */
export const FindFilter = z.object({
  type: DataType.optional(),
  presence: z.enum(PRESENCES).optional(),
  /** whole: proved or with nothing against it; damaged: the others */
  whole: z.enum(['whole', 'damaged']).optional(),
  /** made at or after, and at or before; UTC */
  from: instant.optional(),
  to: instant.optional(),
  /** made on these days of the shop, both included */
  fromDay: day.optional(),
  toDay: day.optional(),
  /** items of which nobody knows when they were made */
  isUndated: z.coerce.boolean().optional(),
  /** a place and all below it */
  place: z.string().max(2000).optional(),
  /** part of a name, or an extension such as .docx */
  find: z.string().trim().max(200).optional(),
  least: z.coerce.number().int().min(0).optional(),
  most: z.coerce.number().int().min(0).optional(),
  /** id of a wanted set, or any of them */
  wanted: z.string().max(60).optional(),
  isSelected: z.coerce.boolean().optional(),
  /** of what lies on a medium: from this byte on, and before that one */
  fromByte: z.coerce.number().int().min(0).optional(),
  toByte: z.coerce.number().int().min(0).optional(),
})
export type FindFilter = z.infer<typeof FindFilter>

/** All that is stored of a found item. The limits on its texts were checked when it came, so they are not asked for again. */
export const StoredFind = LinkItem.extend({
  id: z.string(),
  name: z.string(),
  place: z.array(z.string()),
  mime: z.string(),
  keep: z.string(),
  keepTitle: z.string(),
  asOf: instant.nullable(),
  /** of what was found on a medium: where it lies, and by what it is held to be whole */
  evidence: Evidence.nullable().default(null),
})
export type StoredFind = z.infer<typeof StoredFind>

/** One found item as the list shows it. */
export const Find = StoredFind.extend({
  /** number of the find, by which it is selected and opened */
  find: z.int(),
  day: z.string().nullable(),
  wanted: z.string().nullable(),
  isSelected: z.boolean(),
  /** where it lies on the shelf, once it does */
  onShelf: z.enum(['copied', 'verified', 'failed']).nullable(),
})
export type Find = z.infer<typeof Find>

const count = z.int().min(0)

/** One line of the days: what was found of a day, beside what is expected of it. */
export const FindDay = z.object({
  /** the day in the shop's zone, YYYY-MM-DD; null for what has no date */
  day: z.string().nullable(),
  count,
  selected: count,
  verified: count,
  /** how many the client expects of that day, where that can be said */
  expected: z.number().nullable(),
})
export type FindDay = z.infer<typeof FindDay>

/** What a listing found, counted by the filter. */
export const FindCounts = z.object({
  total: count,
  matching: count,
  selected: count,
  selectedBytes: count,
  /** found and wanted, per wanted set */
  wanted: z.array(z.object({ id: z.string(), found: count, of: z.int().nullable(), verified: count })),
  types: z.array(z.object({ type: z.enum(DATA_TYPES), count })),
  places: z.array(z.object({ place: z.string(), count })),
  presences: z.array(z.object({ presence: z.enum(PRESENCES), count })),
  wholes: z.array(z.object({ whole: z.enum(WHOLENESS), count })),
  days: z.array(FindDay),
  /** of a medium: how many of what fits begin in each part of its section, the brushed stretch left out of account */
  section: z.array(count).nullable(),
})
export type FindCounts = z.infer<typeof FindCounts>

/** What lies in a folder, itself or further in, as far as it fits the sentence. */
export const FindFolder = z.object({ name: z.string(), place: z.string(), count, selected: count, bytes: count })
export type FindFolder = z.infer<typeof FindFolder>

export const FindPage = z.object({ finds: z.array(Find), counts: FindCounts.nullable() })
export type FindPage = z.infer<typeof FindPage>
