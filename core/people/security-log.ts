import { z } from 'zod'
import { instant } from '../cases/shape/moment'

/** The events of the security log, by name; their words are below. */
export const SECURITY_EVENTS = [
  'signed-in',
  'signed-out',
  'wrong-password',
  'unknown-name',
  'too-many-tries',
  'sessions-ended',
  'owner-made',
  'person-added',
  'person-removed',
  'role-changed',
  'password-set',
  'password-changed',
  'password-recovered',
  'idle-limit-set',
  'folders-named',
  'backups-named',
  'shelf-place-named',
  'backup-passphrase-set',
  'media-named',
  'playbook-changed',
  'feed-opened',
  'feed-closed',
  'data-wiped',
  'name-wiped',
  'refused-role',
  'foreign-host',
  'foreign-origin',
  'too-large',
] as const
export type SecurityEvent = (typeof SECURITY_EVENTS)[number]

const WORDS: Record<SecurityEvent, string> = {
  'signed-in': 'signed in',
  'signed-out': 'signed out',
  'wrong-password': 'wrong password',
  'unknown-name': 'sign-in with a name that nobody has',
  'too-many-tries': 'sign-in refused: too many attempts',
  'sessions-ended': 'ended other sessions',
  'owner-made': 'became the owner of the shop',
  'person-added': 'gave access to',
  'person-removed': 'removed the access of',
  'role-changed': 'changed the role of',
  'password-set': 'set a new password for',
  'password-changed': 'changed the password',
  'password-recovered': 'password set on the shop’s machine for',
  'idle-limit-set': 'changed the idle limit to',
  'folders-named': 'changed the folders with backups',
  'backups-named': 'changed where backups go',
  'shelf-place-named': 'changed where shelves are',
  'backup-passphrase-set': 'set a new passphrase for backups',
  'media-named': 'changed the list of images and devices',
  'playbook-changed': 'changed the playbook',
  'feed-opened': 'opened their calendar at a new address',
  'feed-closed': 'closed the address of their calendar',
  'data-wiped': 'the data were wiped of',
  'name-wiped': 'the name was wiped of',
  'refused-role': 'asked for something their role may not do',
  'foreign-host': 'refused: unknown host name',
  'foreign-origin': 'refused: page of another site',
  'too-large': 'refused: request too large',
}

/** An event in words, to be read between who did it and whom it was done to. */
export const securityWords = (event: SecurityEvent) => WORDS[event]

export const SecurityEntry = z.object({
  id: z.int(),
  at: instant,
  event: z.enum(SECURITY_EVENTS),
  by: z.string().nullable(),
  about: z.string().nullable(),
  address: z.string().nullable(),
  count: z.int().min(1),
})
export type SecurityEntry = z.infer<typeof SecurityEntry>

/** A page of the log, the newest first. */
export const SecurityPage = z.object({ entries: z.array(SecurityEntry) })
