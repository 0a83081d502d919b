import type { KnownModel } from './models'

/** What a device keeps its data on, as people say it. */
export const STORAGE_WORDS: Record<NonNullable<KnownModel['storage']>, string> = {
  'phone-flash': 'built-in flash',
  'solid-state': 'solid-state disk',
  'spinning-disk': 'spinning disk',
  card: 'memory card',
  stick: 'memory stick',
}

/** How a device encrypts what it keeps, as people say it. */
export const ENCRYPTION_WORDS: Record<NonNullable<KnownModel['encryption']>, string> = {
  none: 'not encrypted',
  'whole-device': 'encrypted whole',
  'per-file': 'encrypted by file',
}

/** When a device erases what was freed, as people say it. */
export const DISCARD_WORDS: Record<NonNullable<KnownModel['discard']>, string> = {
  'at-once': 'erases freed blocks at once',
  'by-timer': 'erases freed blocks by a timer',
  off: 'never erases freed blocks',
}
