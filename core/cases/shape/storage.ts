import { z } from 'zod'
import { bytes, choice, fact, name } from './fact'

export const STORAGE_KINDS = ['phone-flash', 'solid-state', 'spinning-disk', 'card', 'stick'] as const

/** What data physically lies on, and what the physics of a deletion depends on. */
export const Storage = z.object({
  kind: choice(STORAGE_KINDS),
  fileSystem: fact(name(40)),
  capacityBytes: fact(bytes),
  freeBytes: fact(bytes),
  /** per-file drops the key with the file; whole-device drops every key with a reset */
  encryption: choice(['none', 'whole-device', 'per-file']),
  /** when freed blocks are erased: at once, by a timer, or never */
  discard: choice(['at-once', 'by-timer', 'off']),
})
export type Storage = z.infer<typeof Storage>
