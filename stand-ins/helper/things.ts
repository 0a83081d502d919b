import type { AppRecord } from '../../core/records/record'
import type { DataType } from '../../core/cases/shape/data-types'
import type { Platform } from '../../core/cases/shape/device'
import type { ActionName, ActionParameters } from '../../core/bench/action'
import { linkItem, type LinkItem } from '../../core/bench/item'
import type { KeepKind } from '../../core/bench/keep'

/** An item as a stand-in stores it: its bytes are kept elsewhere, by checksum; a record is its own content. */
export interface StoredItem extends Omit<LinkItem, 'goneAt' | 'sha256'> {
  content: string | null
}

export interface StoredKeep {
  id: string
  kind: KeepKind
  title: string
  types: DataType[]
  items: StoredItem[]
  asOf: string | null
  periodDays: number | null
  isOn: boolean
}

/** Everything that a device held when it was backed up. */
export interface StoredBackup {
  id: string
  /** id of the phone that was backed up */
  device: string
  deviceTitle: string
  platform: Platform
  account: string | null
  taken: string
  keepsBins: boolean
  isSelective: boolean
  password: string | null
  keeps: StoredKeep[]
  /** checksum of the archive, once somebody has asked for it */
  archive: string | null
  archiveBytes: number
}

export interface StoredTask {
  id: string
  action: ActionName
  title: string
  state: 'running' | 'done' | 'failed'
  begun: number
  ends: number
  done: number
  total: number
  says: string
  parameters: Omit<ActionParameters, 'password'>
}

/** Faults that can be simulated. */
export interface Faults {
  /** the cable or the line is out */
  isLost: boolean
  /** the next transfer breaks off after so many bytes, once */
  dropAfter: number | null
  /** bytes in a second, where the line is slow */
  slow: number | null
  /** there is no room for anything more */
  isFull: boolean
  /** items whose bytes arrive damaged */
  corrupt: string[]
}

interface Common {
  id: string
  title: string
  /** until when (ms) everything that happens by itself has happened */
  lived: number
  /** goes up with every change of what it holds */
  revision: number
  keeps: StoredKeep[]
  backups: StoredBackup[]
  tasks: StoredTask[]
  faults: Faults
}

export interface Phone extends Common {
  kind: 'phone'
  platform: 'closed-phone' | 'open-phone'
  encryption: 'per-file' | 'none'
  passcode: string | null
  /** wrong passcodes left before it erases itself; null where it does not count */
  triesLeft: number | null
  screen: 'works' | 'cracked'
  isUnlocked: boolean
  /** computers that it trusts, by id; the bench is one of them */
  trusts: string[]
  /** through which computer it is spoken to while it is locked */
  via: string | null
  /** null where the platform has no such switch */
  debugging: boolean | null
  isAsleep: boolean
  stage: 'in-use' | 'first-set-up'
  power: { fraction: number; isCharging: boolean }
  isOnline: boolean
  room: { capacity: number; other: number }
  sync: { account: string | null; isOn: boolean; types: DataType[]; deletions: string[] }
  nightly: { account: string | null; isOn: boolean; hour: number; minute: number; slots: number; keepsBins: boolean }
  /** the rows of its apps have been read and stay readable until something disturbs it */
  appsRead: boolean
}

export interface Account extends Common {
  kind: 'account'
  name: string
  owner: string
  password: string
  triesLeft: number
  lockedUntil: number
  secondFactor: string | null
  stage: 'out' | 'asks-code' | 'in'
  sessionEnds: number
  sessionMinutes: number
  bytesPerSecond: number
  slots: number
  /** hours that a data export takes, and days for which its link works */
  exports: { hours: number; linkDays: number }
}

export interface Computer extends Common {
  kind: 'computer'
  platform: 'desktop-pc' | 'maker-desktop' | 'unix-desktop'
  password: string | null
  isSignedIn: boolean
  isAsleep: boolean
  room: { capacity: number; other: number }
}

export type Thing = Phone | Account | Computer

/** Bytes by their checksum. */
export interface Contents {
  put(bytes: Uint8Array): string
  get(sha256: string): Uint8Array
}

export interface World {
  readonly things: ReadonlyMap<string, Thing>
  readonly contents: Contents
  /** ms since the epoch */
  readonly now: number
  /** the shop's zone, in which nights are nights */
  readonly zone: string
}

export const NO_FAULTS: Faults = { isLost: false, dropAfter: null, slow: null, isFull: false, corrupt: [] }

/** A stored item with defaults filled in. */
export function item(facts: Partial<StoredItem> & Pick<StoredItem, 'id' | 'name' | 'type'>): StoredItem {
  const { goneAt, sha256, ...plain } = linkItem({ bytes: 0, whole: 'intact', ...facts })
  return { content: null, ...plain }
}

export function keep(facts: Partial<StoredKeep> & Pick<StoredKeep, 'id' | 'kind' | 'title' | 'types'>): StoredKeep {
  return { items: [], asOf: null, periodDays: null, isOn: true, ...facts }
}

/** The bytes of a record as an item: itself, as JSON. */
export const recordBytes = (record: AppRecord) => new TextEncoder().encode(`${JSON.stringify(record, null, 2)}\n`)
