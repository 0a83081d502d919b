import { z } from 'zod'
import { DataType } from '../cases/shape/data-types'
import { instant } from '../cases/shape/moment'
import { LinkItem } from '../bench/item'
import { Keep } from '../bench/keep'

export const BACKUP_FORMAT = 'russet-lantern/backup'
export const MANIFEST_NAME = 'manifest.json'

/** A backup's first page, never encrypted: its owner, its time, the types of data in it. It names no item. */
export const BackupManifest = z.object({
  format: z.literal(BACKUP_FORMAT),
  version: z.literal(1),
  device: z.object({ id: z.string().max(80).default(''), title: z.string().max(200), platform: z.string().max(40) }),
  account: z.string().max(200).nullable().default(null),
  taken: instant,
  keepsBins: z.boolean().default(false),
  counts: z.partialRecord(DataType, z.int().min(0)).default({}),
  /** of all items, unpacked */
  bytes: z.int().min(0),
  /** name of the entry that lists the items */
  index: z.string().max(80),
  /** name of the entry with the key, itself encrypted with a password (age v1); null where nothing is encrypted */
  identity: z.string().max(80).nullable().default(null),
})
export type BackupManifest = z.infer<typeof BackupManifest>

/** Each keep of the device, and every item with the name of its entry. */
export const BackupIndex = z.object({
  format: z.literal('russet-lantern/backup-index'),
  version: z.literal(1),
  keeps: z.array(Keep.pick({ id: true, kind: true, title: true, types: true, periodDays: true, isOn: true })).max(200),
  items: z.array(LinkItem.extend({ keep: z.string().max(100), entry: z.string().max(1000) })).max(500_000),
})
export type BackupIndex = z.infer<typeof BackupIndex>
export type BackupItem = BackupIndex['items'][number]

/** The format as JSON Schema, draft 2020-12. */
export function backupJsonSchema(): object {
  return z.toJSONSchema(z.object({ manifest: BackupManifest, index: BackupIndex }), { target: 'draft-2020-12' })
}
