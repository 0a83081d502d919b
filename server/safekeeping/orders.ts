import type { Packing, Packed } from '../../disk/shop-backup/pack'
import type { BackupKey } from '../../disk/shop-backup/seal'
import type { IntegrityCheck } from '../../core/safekeeping/backup'

/** What the process of the safekeeping is asked to do, and what it answers. */
export type SafeOrder =
  | { readonly order: 'backup'; readonly packing: Packing }
  | { readonly order: 'check'; readonly dataFolder: string }
  | { readonly order: 'key'; readonly passphrase: string }

export type SafeAnswer =
  | { readonly done: Packed | BackupKey | Pick<IntegrityCheck, 'isSound' | 'says'> }
  /** for people; null where the reason is not known to be fit for them */
  | { readonly fault: string | null; readonly code: string | null }
