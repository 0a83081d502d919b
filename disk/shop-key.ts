import { hkdfSync, randomBytes } from 'node:crypto'
import { closeSync, existsSync, fsyncSync, openSync, readFileSync, renameSync, writeSync } from 'node:fs'
import { join } from 'node:path'

/** The shop's key, beside its database and never in it. */
export const SHOP_KEY = 'shop.key'
const BYTES = 32

/** What is derived from the shop's key: one key for the chain of the history, one that seals the keys of cases, one for noted secrets. */
export interface ShopKeys {
  readonly chain: Buffer
  readonly wrap: Buffer
  readonly secrets: Buffer
}

const derived = (key: Uint8Array, what: string) => Buffer.from(hkdfSync('sha256', key, '', `lantern ${what}`, BYTES))

/** The keys of a shop (HKDF-SHA-256, RFC 5869); null where its folder has no key. Throws where the file is not one. */
export function readShopKeys(folder: string): ShopKeys | null {
  const path = join(folder, SHOP_KEY)
  if (!existsSync(path)) return null
  const text = readFileSync(path, 'utf8').trim()
  if (!/^[0-9a-f]{64}$/.test(text)) throw new Error(`${path} is damaged: put it back from a backup`)
  const key = Buffer.from(text, 'hex')
  return { chain: derived(key, 'history chain'), wrap: derived(key, 'case keys'), secrets: derived(key, 'secrets') }
}

/**
 * Makes the key of a new shop: complete and on disk before it has its name, so that no stop leaves half a key. Only for a
 * folder that has none.
 */
export function makeShopKeys(folder: string): ShopKeys {
  const path = join(folder, SHOP_KEY)
  const file = openSync(`${path}.new`, 'w', 0o600)
  try {
    writeSync(file, `${randomBytes(BYTES).toString('hex')}\n`)
    fsyncSync(file)
  } finally {
    closeSync(file)
  }
  renameSync(`${path}.new`, path)
  const entries = openSync(folder, 'r')
  try {
    fsyncSync(entries)
  } finally {
    closeSync(entries)
  }
  return readShopKeys(folder)!
}
