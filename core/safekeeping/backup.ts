import { z } from 'zod'
import { instant } from '../cases/shape/moment'

export const SHOP_BACKUP_FORMAT = 'russet-lantern/shop-backup'

/** The files of one backup in its folder. */
export const BACKUP_FILES = { manifest: 'manifest.json', key: 'key.age', content: 'shop.tar.age' } as const

/** What a backup of the shop says of itself without its passphrase: nothing about clients. */
export const ShopBackup = z.object({
  format: z.literal(SHOP_BACKUP_FORMAT),
  version: z.literal(1),
  at: instant,
  shop: z.string().max(120),
  /** the same in every backup of one shop; null in one that was made before the shop had an id */
  shopId: z.uuid().nullable(),
  /** whether shelves, fetched backups and media are in it, too */
  hasFiles: z.boolean(),
  files: z.int().min(0),
  /** of what is in it, before encryption */
  bytes: z.int().min(0),
})
export type ShopBackup = z.infer<typeof ShopBackup>

/** The minimum length of the passphrase: it is used once in years, and has to withstand guessing beside the backup. */
export const MIN_PASSPHRASE = 14

/** Where backups go, and what is in them. */
export const BackupWish = z.object({
  folder: z.string().trim().min(1, 'is empty').max(1000),
  hasFiles: z.boolean(),
  /** a new passphrase; null keeps the one that there is */
  passphrase: z
    .string()
    .min(MIN_PASSPHRASE, `is shorter than ${MIN_PASSPHRASE} characters`)
    .max(300, 'is longer than 300 characters')
    .nullable(),
})
export type BackupWish = z.infer<typeof BackupWish>

/** How the last backup went. */
const LastBackup = z.object({ at: instant, name: z.string(), bytes: z.int(), seconds: z.number() })
const Failed = z.object({ at: instant, says: z.string() })

/** The state of a check of the database and its history. */
export const IntegrityCheck = z.object({ at: instant, isSound: z.boolean(), says: z.string() })
export type IntegrityCheck = z.infer<typeof IntegrityCheck>

const Room = z.object({ what: z.string(), free: z.int(), total: z.int() })

/** What an owner has to know about the health of the shop itself. */
export const Health = z.object({
  /** the disk for shelves of new cases is not connected */
  isShelfAway: z.boolean(),
  rooms: z.array(Room),
  backup: z.object({
    /** null where no place was named yet */
    folder: z.string().nullable(),
    hasFiles: z.boolean(),
    hasPassphrase: z.boolean(),
    isRunning: z.boolean(),
    last: LastBackup.nullable(),
    /** null where the last one succeeded */
    failed: Failed.nullable(),
    kept: z.array(z.object({ name: z.string(), at: instant, bytes: z.int(), hasFiles: z.boolean() })),
    keepDays: z.int(),
  }),
  check: IntegrityCheck.nullable(),
  isChecking: z.boolean(),
  jobs: z.array(
    z.object({ what: z.string(), code: z.string(), state: z.enum(['running', 'waiting', 'failed']), says: z.string() }),
  ),
  /** open cases whose files on the shelf are in no backup */
  only: z.array(z.object({ code: z.string(), files: z.int(), bytes: z.int() })),
  databaseBytes: z.int(),
})
export type Health = z.infer<typeof Health>
