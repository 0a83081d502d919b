import { Decrypter, Encrypter, generateIdentity, identityToRecipient } from 'age-encryption'

/** What backups are encrypted with: the public half, and the secret half sealed with the owner's passphrase (age, scrypt). */
export interface BackupKey {
  readonly recipient: string
  /** base64 */
  readonly sealed: string
}

/** Work that makes guessing slow: about a second for each guess. */
const WORK_FACTOR = 17

/** A new key whose secret half only the passphrase opens; the passphrase itself is stored nowhere. */
export async function newBackupKey(passphrase: string, workFactor = WORK_FACTOR): Promise<BackupKey> {
  const identity = await generateIdentity()
  const outer = new Encrypter()
  outer.setPassphrase(passphrase)
  outer.setScryptWorkFactor(workFactor)
  return {
    recipient: await identityToRecipient(identity),
    sealed: Buffer.from(await outer.encrypt(identity)).toString('base64'),
  }
}

/** The secret half of a key; throws where the passphrase is another one. */
export async function openBackupKey(sealed: Uint8Array, passphrase: string): Promise<string> {
  const outer = new Decrypter()
  outer.addPassphrase(passphrase)
  try {
    return await outer.decrypt(sealed, 'text')
  } catch {
    throw new Error('The passphrase does not open this backup. Nothing was written.')
  }
}
