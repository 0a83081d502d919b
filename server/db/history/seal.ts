import { createCipheriv, createDecipheriv, createHash, randomBytes } from 'node:crypto'

const CIPHER = 'aes-256-gcm'
const NONCE_BYTES = 12
const TAG_BYTES = 16
const SALT_BYTES = 32

/** AES-256-GCM (NIST SP 800-38D) with a random nonce in front and the tag at the end; bound to a place by `about`. */
export function sealBytes(key: Uint8Array, bytes: Uint8Array, about: string): Buffer {
  const nonce = randomBytes(NONCE_BYTES)
  const cipher = createCipheriv(CIPHER, key, nonce).setAAD(Buffer.from(about))
  return Buffer.concat([nonce, cipher.update(bytes), cipher.final(), cipher.getAuthTag()])
}

/** The bytes that were sealed; null where key, place or bytes are not the ones they were sealed with. */
export function openBytes(key: Uint8Array, sealed: Uint8Array, about: string): Buffer | null {
  if (sealed.length < NONCE_BYTES + TAG_BYTES) return null
  const [nonce, body, tag] = [
    sealed.subarray(0, NONCE_BYTES),
    sealed.subarray(NONCE_BYTES, -TAG_BYTES),
    sealed.subarray(-TAG_BYTES),
  ]
  const cipher = createDecipheriv(CIPHER, key, nonce).setAAD(Buffer.from(about)).setAuthTag(tag)
  try {
    return Buffer.concat([cipher.update(body), cipher.final()])
  } catch {
    return null
  }
}

/** The content of an entry, sealed with its salt, and the digest of both. */
export function sealContent(key: Uint8Array, content: string, about: string): { sealed: Buffer; digest: string } {
  const salted = Buffer.concat([randomBytes(SALT_BYTES), Buffer.from(content, 'utf8')])
  return { sealed: sealBytes(key, salted, about), digest: createHash('sha256').update(salted).digest('hex') }
}

/** The content of an entry; null where its key is gone, or where it does not match its digest. */
export function openContent(key: Uint8Array, sealed: Uint8Array, digest: string, about: string): string | null {
  const salted = openBytes(key, sealed, about)
  if (!salted || createHash('sha256').update(salted).digest('hex') !== digest) return null
  return salted.subarray(SALT_BYTES).toString('utf8')
}
