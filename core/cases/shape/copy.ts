import { z } from 'zod'
import { DataType } from './data-types'
import { bytes, choice, fact, name, partId, UNKNOWN, yesNo, type Fact } from './fact'
import { Moment } from './moment'
import { PartHeld } from './part-held'
import { Period } from './period'
import { Storage } from './storage'

export const COPY_KINDS = [
  'cloud-library',
  'cloud-drive',
  'cloud-backup',
  'computer-backup',
  'trusted-computer',
  'file-history',
  'earlier-versions',
  'snapshot-timeline',
  'system-image',
  'restore-point',
  'contact-archive',
  'bookmark-archive',
  'mail-account',
  'social-account',
  'sim-card',
  'app-copies',
  'other-device',
  'medium',
  'disk-image',
  'person',
] as const
export type CopyKind = (typeof COPY_KINDS)[number]

/** Kinds of copies that are kept in an account, and end with it. */
export const IN_AN_ACCOUNT: readonly string[] = [
  'cloud-library',
  'cloud-drive',
  'cloud-backup',
  'contact-archive',
  'mail-account',
  'social-account',
] satisfies CopyKind[]

/** Kinds of copies that lie on a device or disk, which can be lost with it, or infected by it. */
export const LIES_ON_SOMETHING: readonly string[] = [
  'computer-backup',
  'trusted-computer',
  'file-history',
  'earlier-versions',
  'snapshot-timeline',
  'system-image',
  'bookmark-archive',
  'disk-image',
  'app-copies',
] satisfies CopyKind[]

const MAX_HELD = 100

/**
 * Anything that may still hold wanted items, apart from the device itself and its bins. Every fact is in one flat
 * shape; FACTS_OF_COPY lists which of them matter for which kind.
 */
export const Copy = z.object({
  id: partId,
  kind: z.enum(COPY_KINDS),
  /** the device that it is a copy of, or that contains it */
  device: fact(partId),
  /** in people's words: "laptop at home", "survey partner" */
  label: fact(name(80)),
  /** whether there is such a copy at all; supposed: it follows from something else that was said */
  exists: choice(['yes', 'supposed', 'no']),
  /** id of the device or medium that it lies on; apart: on none of them */
  lies: fact(z.union([z.literal('apart'), partId])),
  /** which part it holds of each wanted set, by the id of the set */
  holds: z
    .record(partId, fact(PartHeld))
    .refine((parts) => Object.keys(parts).length <= MAX_HELD, `names more than ${MAX_HELD} wanted sets`)
    .default({}),
  /** how long this one keeps things, where it differs from the usual */
  keepsFor: fact(Period),
  /** it holds placeholders instead of files */
  placeholders: yesNo,
  /** another device: when it was last online */
  lastOnline: fact(Moment),
  /** which types it keeps */
  keeps: fact(z.array(DataType).max(DataType.options.length)),
  /** it holds only items made in this range */
  covers: fact(Moment),
  /** when it was made (a backup, a version, an archive) */
  taken: fact(Moment),
  bytes: fact(bytes),
  /** rough number of wanted items that it holds (a person) */
  count: fact(z.int().min(0, 'is below zero').max(100_000_000)),
  account: choice(['known', 'not-known']),
  /** an account: when it was closed; one that is still to close is a loss that lies ahead */
  ended: fact(Moment),
  /** id of the account that other copies are in too; its state counts instead of `account` */
  accountOf: fact(partId),
  encrypted: yesNo,
  password: choice(['opened', 'thought-known', 'not-known']),
  /** id of the password or key that opens other copies too; its state counts instead of `password` */
  passwordOf: fact(partId),
  selective: yesNo,
  /**
   * a library or drive: whether it was in sync with the device when the loss happened, or is only believed to have been
   */
  sync: choice(['on', 'thought-on', 'off']),
  /** until when items created on the device reached it */
  syncedUntil: fact(Moment),
  /** a backup of a device that keeps the bin's contents too */
  keepsBin: yesNo,
  binEmptied: yesNo,
  /** when the next automatic run will replace it, or should have */
  replaced: fact(Moment),
  /** whether that run has happened: a machine that was switched off may have saved the good copy */
  ran: yesNo,
  /** whether a library keeps the originals or reduced copies of them */
  size: choice(['full', 'reduced']),
  storage: Storage.prefault({}),
})
export type Copy = z.infer<typeof Copy>

/** What a copy is said to hold of a wanted set; unknown where nobody said. */
export const heldOf = ({ holds }: Pick<Copy, 'holds'>, set: string): Fact<PartHeld> =>
  Object.hasOwn(holds, set) ? holds[set]! : UNKNOWN

export type CopyFact = Exclude<keyof Copy, 'id' | 'kind' | 'device' | 'storage' | 'holds'>

/** Which facts are worth asking about each kind of copy, in the order of asking. */
export const FACTS_OF_COPY: Record<CopyKind, readonly CopyFact[]> = {
  'cloud-library': ['account', 'sync', 'syncedUntil', 'size', 'binEmptied'],
  'cloud-drive': ['account', 'sync', 'syncedUntil', 'binEmptied'],
  'cloud-backup': ['taken', 'account', 'keeps', 'selective', 'replaced', 'keepsBin'],
  'computer-backup': ['label', 'taken', 'encrypted', 'password', 'selective', 'replaced', 'ran', 'keepsBin'],
  'trusted-computer': ['label', 'taken', 'encrypted', 'password', 'replaced', 'ran'],
  'file-history': ['label', 'taken', 'replaced', 'ran'],
  'earlier-versions': ['taken', 'replaced', 'ran'],
  'snapshot-timeline': ['taken', 'replaced', 'ran'],
  'system-image': ['label', 'taken', 'replaced', 'ran'],
  'restore-point': ['taken'],
  'contact-archive': ['account', 'taken', 'syncedUntil'],
  'bookmark-archive': ['taken'],
  'mail-account': ['account', 'binEmptied'],
  'social-account': ['account', 'count'],
  'sim-card': ['count'],
  medium: ['label'],
  'disk-image': ['label', 'taken'],
  person: ['label', 'count'],
  'app-copies': ['taken', 'keepsFor', 'replaced'],
  'other-device': ['label', 'lastOnline'],
}
