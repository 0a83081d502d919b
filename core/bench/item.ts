import { z } from 'zod'
import { DataType } from '../cases/shape/data-types'
import { instant } from '../cases/shape/moment'
import { WHOLENESS } from '../files/wholeness'
import { AppRecord } from '../records/record'

export const PRESENCES = ['present', 'deleted', 'earlier'] as const

const moment = instant.nullable().default(null)

/**
 * An item of a link, a backup or a scan. Names and places are what their owner called them: shown as text, never used
 * as a path without being made safe first.
 */
export const LinkItem = z.object({
  id: z.string().min(1).max(300),
  name: z.string().max(1000),
  /** folders, albums or apps, from the outermost */
  place: z.array(z.string().max(1000)).max(60).default([]),
  type: DataType,
  mime: z.string().max(120).default('application/octet-stream'),
  bytes: z.int().min(0),
  made: moment,
  changed: moment,
  deleted: moment,
  /** when its bin will erase it */
  goneAt: moment,
  presence: z.enum(PRESENCES).default('present'),
  whole: z.enum(WHOLENESS).default('unverified'),
  /** of a library: on the device only, on both, or in the cloud only */
  kept: z.enum(['device', 'both', 'cloud']).nullable().default(null),
  /** a smaller copy of the original */
  isReduced: z.boolean().default(false),
  sha256: z
    .string()
    .regex(/^[0-9a-f]{64}$/)
    .nullable()
    .default(null),
  /** how its content is to be opened: as it is, as a database of rows, as a backup */
  opensAs: z.enum(['file', 'rows', 'backup']).default('file'),
  record: AppRecord.nullable().default(null),
})
export type LinkItem = z.infer<typeof LinkItem>

/** The defaults of an item; the rest goes on top. Made without parsing, since lists are long. */
const PLAIN_ITEM: Omit<LinkItem, 'id' | 'name' | 'type' | 'bytes'> = {
  place: [],
  mime: 'application/octet-stream',
  made: null,
  changed: null,
  deleted: null,
  goneAt: null,
  presence: 'present',
  whole: 'unverified',
  kept: null,
  isReduced: false,
  sha256: null,
  opensAs: 'file',
  record: null,
}

/** An item with defaults filled in. */
export const linkItem = (facts: Pick<LinkItem, 'id' | 'name' | 'type' | 'bytes'> & Partial<LinkItem>): LinkItem => ({
  ...PLAIN_ITEM,
  ...facts,
})

/** A page of items, and where the next one starts; null for the last page. */
export const ItemPage = z.object({ items: z.array(LinkItem).max(1000), next: z.int().min(0).nullable() })
export type ItemPage = z.infer<typeof ItemPage>
