import type { Reader } from '../../sources/reader'
import type { Extent } from '../../sources/source'

/** How a passphrase becomes the key of a key slot; `memory` in KiB. */
export type KeyFunction =
  | { readonly type: 'pbkdf2'; readonly hash: string; readonly iterations: number; readonly salt: Uint8Array }
  | {
      readonly type: 'argon2i' | 'argon2id'
      readonly time: number
      readonly memory: number
      readonly cpus: number
      readonly salt: Uint8Array
    }

/** A place where the key of a volume lies, encrypted and split into stripes (anti-forensic splitting). */
export interface KeySlot {
  readonly keyFunction: KeyFunction
  /** of the key of the volume */
  readonly keyBytes: number
  readonly stripes: number
  /** of the splitting */
  readonly hash: string
  /** from the start of the volume, in bytes */
  readonly offset: number
  readonly cipher: string
  /** of the key that encrypts the slot */
  readonly cipherKeyBytes: number
  readonly digest: Digest
}

/** What says that a key is the right one: PBKDF2 of it. */
export interface Digest {
  readonly hash: string
  readonly iterations: number
  readonly salt: Uint8Array
  readonly digest: Uint8Array
}

/** Where the data of a volume is, in bytes from its start, and how it is encrypted. */
export interface Segment {
  readonly extent: Extent
  readonly sectorBytes: number
  /** number of its first unit of 512 bytes, for the cipher */
  readonly firstUnit: number
  readonly cipher: string
}

export interface LuksHeader {
  readonly version: 1 | 2
  readonly slots: readonly KeySlot[]
  readonly segment: Segment
}

/** Why a volume cannot be opened, as the rest of a sentence that begins with the volume. */
export class LuksFault extends Error {}

/** The text of a field that ends with a zero byte. */
export const textOf = (reader: Reader, at: number, length: number) => reader.text(at, length).split('\0')[0]!
