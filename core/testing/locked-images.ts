import { readFileSync } from 'node:fs'
import { join } from 'node:path'
import { gunzipSync } from 'node:zlib'

/**
 * Two small images as ordinary tools encrypted them (version 1: AES-CBC with ESSIV, PBKDF2; version 2: AES-XTS, Argon2id): each
 * holds a FAT12 volume LOCKED with a note, a picture, and the same picture deleted.
 */
export const LOCKED = ['version-1', 'version-2'] as const
export const PASSPHRASE = 'lock keeper 7'
/** of the picture, present and deleted */
export const PICTURE_SHA256 = '6b521946337ce77001e8bc10a31a06183be1bd6fd15a96f474705b348dd8513b'

/** What its records name. */
export const LOCKED_NAMES = ['note.txt 30', 'HERON.JPG 9059', '_OST.JPG 9059']

export const lockedPath = (name: (typeof LOCKED)[number]) =>
  join(import.meta.dirname, 'locked-images', `${name}.img.gz`)

export const lockedImage = (name: (typeof LOCKED)[number]) => new Uint8Array(gunzipSync(readFileSync(lockedPath(name))))
