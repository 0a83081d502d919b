import { z } from 'zod'
import { DataType } from '../cases/shape/data-types'
import { instant } from '../cases/shape/moment'

const count = z.int().min(0)

/** The state of a job that copies: to the shelf, or a backup to the bench. */
export const COPYING_STATES = ['running', 'stopped', 'done'] as const

/** A bag with its manifests (RFC 8493), or plain folders with a list of checksums. */
export const HANDOUT_LAYOUTS = ['bag', 'plain'] as const
export type HandoutLayout = (typeof HANDOUT_LAYOUTS)[number]

/** A copy of the shelf onto a client's medium or into a folder, with its progress in files. */
export const Handout = z.object({
  id: z.int(),
  path: z.string(),
  layout: z.enum(HANDOUT_LAYOUTS),
  state: z.enum(COPYING_STATES),
  says: z.string(),
  done: count,
  total: count,
})
export type Handout = z.infer<typeof Handout>

/** Where to copy to: one of the folders that the owner has named, and how. */
export const HandoutStart = z.object({ folder: z.string().trim().min(1).max(1000), layout: z.enum(HANDOUT_LAYOUTS) })

/** The folders that the owner has named, with their free bytes; null for one that is not there now, as a medium unplugged. */
export const HandoutFolders = z.object({
  folders: z.array(z.object({ path: z.string(), free: count.nullable() })),
})
export type HandoutFolders = z.infer<typeof HandoutFolders>

/** Copying to the shelf, with its progress. */
export const ShelfState = z.object({
  job: z.object({ id: z.int(), state: z.enum(COPYING_STATES), says: z.string(), begun: instant }).nullable(),
  waiting: count,
  copied: count,
  verified: count,
  failed: count,
  /** of the verified copies: damaged items, and unverified items */
  damaged: count,
  unverified: count,
  bytes: count,
  waitingBytes: count,
  free: count,
  /** the copy onto a client's medium that was started last */
  handout: Handout.nullable(),
  /** per wanted set: on the shelf and read back */
  wanted: z.array(z.object({ id: z.string(), verified: count })),
})
export type ShelfState = z.infer<typeof ShelfState>

/** The state of an item of the shelf; `verified`: copied, and read back against its checksum. */
export const SHELF_ITEM_STATES = ['waiting', 'copied', 'verified', 'failed'] as const

/** One item on the shelf or in its queue. */
export const ShelfItem = z.object({
  id: z.int(),
  name: z.string(),
  type: DataType,
  /** below the folder of the case's shelf */
  path: z.string(),
  bytes: count,
  state: z.enum(SHELF_ITEM_STATES),
  /** why it failed */
  says: z.string(),
  wanted: z.string().nullable(),
  sha256: z.string().nullable(),
  link: z.string(),
})
export type ShelfItem = z.infer<typeof ShelfItem>

/** The shelf of a case as a list, with the open formats in which its records can be saved. */
export const ShelfList = z.object({
  items: z.array(ShelfItem),
  exports: z.array(z.object({ type: DataType, kind: z.string(), format: z.string(), title: z.string() })),
})
export type ShelfList = z.infer<typeof ShelfList>
