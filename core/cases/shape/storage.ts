import { z } from 'zod'
import { bytes, choice, fact, name } from './fact'
import { Moment } from './moment'

export const STORAGE_KINDS = ['phone-flash', 'solid-state', 'spinning-disk', 'card', 'stick'] as const

/** The medium that data is on, and what the physics of a deletion depends on. */
export const Storage = z.object({
  kind: choice(STORAGE_KINDS),
  fileSystem: fact(name(40)),
  capacityBytes: fact(bytes),
  freeBytes: fact(bytes),
  /** per-file: the key is destroyed with the file; whole-device: every key is destroyed by a reset */
  encryption: choice(['none', 'whole-device', 'per-file']),
  /** when freed blocks are erased: at once, by a timer, or never */
  discard: choice(['at-once', 'by-timer', 'off']),
  /** when the timer that erases freed blocks runs next, or should have run */
  discardNext: fact(Moment),
})
export type Storage = z.infer<typeof Storage>
