import { z } from 'zod'
import { DATA_TYPES, DataType } from '../cases/shape/data-types'
import { instant } from '../cases/shape/moment'
import { WHOLENESS } from '../files/wholeness'
import { LinkItem, PRESENCES } from './item'
import { Evidence } from './medium'

const day = z.string().regex(/^\d{4}-\d\d-\d\d$/, 'is not a day')

/** The filter of the found list; every missing word means "any". */
export const FindFilter = z.object({
  type: DataType.optional(),
  presence: z.enum(PRESENCES).optional(),
  /** whole: intact or unverified; damaged: the others */
  whole: z.enum(['whole', 'damaged']).optional(),
  /** made at or after, and at or before; UTC */
  from: instant.optional(),
  to: instant.optional(),
  /** made on these days of the shop, both included */
  fromDay: day.optional(),
  toDay: day.optional(),
  /** items without a date */
  isUndated: z.coerce.boolean().optional(),
  /** a place and everything below it */
  place: z.string().max(2000).optional(),
  /** part of a name, or an extension such as .docx */
  find: z.string().trim().max(200).optional(),
  least: z.coerce.number().int().min(0).optional(),
  most: z.coerce.number().int().min(0).optional(),
  /** id of a wanted set, or any of them */
  wanted: z.string().max(60).optional(),
  isSelected: z.coerce.boolean().optional(),
  /** of an item on a medium: its first byte from this one on, and before that one */
  fromByte: z.coerce.number().int().min(0).optional(),
  toByte: z.coerce.number().int().min(0).optional(),
})
export type FindFilter = z.infer<typeof FindFilter>

/**
 * The stored body of a found item. Its texts were checked when it was stored, so their limits are not checked again.
 */
export const StoredFind = LinkItem.extend({
  id: z.string(),
  name: z.string(),
  place: z.array(z.string()),
  mime: z.string(),
  keep: z.string(),
  keepTitle: z.string(),
  asOf: instant.nullable(),
  /** of an item on a medium: its extents, and the checks that it passed */
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
  /** its path on the shelf, once it is there */
  onShelf: z.enum(['copied', 'verified', 'failed']).nullable(),
})
export type Find = z.infer<typeof Find>

const count = z.int().min(0)

/** One line of the days: the finds of a day, beside what is expected of it. */
export const FindDay = z.object({
  /** the day in the shop's zone, YYYY-MM-DD; null for items without a date */
  day: z.string().nullable(),
  count,
  selected: count,
  verified: count,
  /** how many the client expects on that day, where that is known */
  expected: z.number().nullable(),
})
export type FindDay = z.infer<typeof FindDay>

/** The counts of a listing under a filter. */
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
  /** of a medium: how many matching items begin in each part of its section, ignoring the brushed range */
  section: z.array(count).nullable(),
})
export type FindCounts = z.infer<typeof FindCounts>

/** The matching items in a folder, at any depth. */
export const FindFolder = z.object({ name: z.string(), place: z.string(), count, selected: count, bytes: count })
export type FindFolder = z.infer<typeof FindFolder>

export const FindPage = z.object({ finds: z.array(Find), counts: FindCounts.nullable() })
export type FindPage = z.infer<typeof FindPage>
