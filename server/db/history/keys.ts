import { randomBytes } from 'node:crypto'
import { eq } from 'drizzle-orm'
import type { ShopKeys } from '../../../disk/shop-key'
import type { Database } from '../connect'
import { caseKeys } from '../tables'
import { openBytes, sealBytes } from './seal'

/** A transaction or the database itself. */
export type Handle = Parameters<Parameters<Database['transaction']>[0]>[0] | Database

const keysByHandle = new WeakMap<object, ShopKeys>()

/** Gives a database, and every transaction in it however deep, the keys of its shop. */
export function withShopKeys<H extends Handle>(handle: H, keys: ShopKeys): H {
  keysByHandle.set(handle, keys)
  const transaction = handle.transaction.bind(handle)
  handle.transaction = (work, config) => transaction((inner) => work(withShopKeys(inner, keys)), config)
  return handle
}

/** The keys of the shop; throws for a database that was opened without them, as jobs beside the server do. */
export function shopKeysOf(handle: Handle): ShopKeys {
  const keys = keysByHandle.get(handle)
  if (!keys) throw new Error('This database was opened without the keys of the shop.')
  return keys
}

const KEY_BYTES = 32
const placeOf = (caseId: number) => `key of case ${caseId}`

/** The key of a case: made with its first entry; null once it was destroyed, or where the shop's key is another one. */
export function caseKey(handle: Handle, caseId: number): Buffer | null {
  const row = handle.select().from(caseKeys).where(eq(caseKeys.caseId, caseId)).get()
  return row ? openBytes(shopKeysOf(handle).wrap, row.sealed, placeOf(caseId)) : null
}

/** Whether what the history says of a case can be read. */
export const hasCaseKey = (handle: Handle, caseId: number): boolean =>
  handle.select({ id: caseKeys.caseId }).from(caseKeys).where(eq(caseKeys.caseId, caseId)).get() !== undefined

export function makeCaseKey(handle: Handle, caseId: number): Buffer {
  const key = randomBytes(KEY_BYTES)
  handle
    .insert(caseKeys)
    .values({ caseId, sealed: sealBytes(shopKeysOf(handle).wrap, key, placeOf(caseId)) })
    .run()
  return key
}

/** Destroys the key of a case: the content and the salts of its entries are gone for good, and the chain still fits. */
export function destroyCaseKey(handle: Handle, caseId: number): void {
  handle.delete(caseKeys).where(eq(caseKeys.caseId, caseId)).run()
}
