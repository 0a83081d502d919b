import { z } from 'zod'
import { DataType } from '../cases/shape/data-types'
import { instant } from '../cases/shape/moment'

export const KEEP_KINDS = [
  'files',
  'library',
  'bin',
  'apps',
  'earlier-state',
  'versions',
  'snapshot',
  'restore-point',
  'recovery',
  'image',
  'backup',
  'export',
  'sim',
] as const
export type KeepKind = (typeof KEEP_KINDS)[number]

/** What a backup says about itself without being opened. */
export const BackupFacts = z.object({
  /** title of the device that it is a backup of */
  device: z.string().max(200),
  /** the account that holds it, where one does */
  account: z.string().max(200).nullable(),
  taken: instant,
  bytes: z.int().min(0),
  isEncrypted: z.boolean(),
  /** whether it contains the bins */
  keepsBins: z.boolean(),
  /** how many of each type; a type that is missing is not inside */
  counts: z.partialRecord(DataType, z.int().min(0)),
  /** whether single items can be read without restoring everything */
  isSelective: z.boolean(),
  /** the most backups that its place keeps for one device; one more replaces the oldest */
  slots: z.int().min(1).nullable(),
})
export type BackupFacts = z.infer<typeof BackupFacts>

/** One place in which a link keeps items: a library, a bin, the state of a folder at a time, a backup. */
export const Keep = z.object({
  id: z.string().regex(/^[a-z0-9][a-z0-9.-]{0,80}$/),
  kind: z.enum(KEEP_KINDS),
  title: z.string().min(1).max(160),
  types: z.array(DataType).min(1),
  count: z.int().min(0),
  bytes: z.int().min(0),
  /** the moment whose state it shows, where that is not now */
  asOf: instant.nullable().default(null),
  /** days for which a bin keeps its items */
  periodDays: z.number().min(0).nullable().default(null),
  /** false where it was never switched on, and so is empty */
  isOn: z.boolean().default(true),
  /** why it cannot be listed yet, in plain words */
  closed: z.string().max(400).nullable().default(null),
  backup: BackupFacts.nullable().default(null),
  /** when it is gone as a whole: an export whose link ends */
  until: instant.nullable().default(null),
})
export type Keep = z.infer<typeof Keep>
