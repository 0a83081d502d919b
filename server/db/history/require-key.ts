import type Sqlite from 'better-sqlite3'
import { CHAIN_START, chainDigest, type ChainEntry } from '../../../core/history/chain'
import { chainEntries } from '../../../disk/shop-history'
import { readShopKeys, SHOP_KEY } from '../../../disk/shop-key'
import { DataFault } from '../data-folder'

/**
 * Refuses a database whose history was written with a key that is not in its folder: what is written from then on could
 * not be told from a forgery. Throws a DataFault; nothing was written.
 */
export function requireKey(client: Sqlite.Database, folder: string): void {
  const entries = chainEntries(client)
  const first = entries.next().value as ChainEntry | undefined
  entries.return?.()
  if (!first) return
  const keys = keysIn(folder)
  if (!keys)
    throw new DataFault(
      `The key of the history, ${SHOP_KEY}, is missing from ${folder}: put it back from the backup that the database is from. Nothing was changed.`,
    )
  if (chainDigest(keys.chain, CHAIN_START, first) !== first.digest)
    throw new DataFault(
      `The key ${SHOP_KEY} in ${folder} does not belong to this database, or the history was changed from its first entry on. Put both back from one backup. Nothing was changed.`,
    )
}

function keysIn(folder: string) {
  try {
    return readShopKeys(folder)
  } catch (error) {
    throw new DataFault(`${(error as Error).message}. Nothing was changed.`)
  }
}
