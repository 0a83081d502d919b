import { randomUUID } from 'node:crypto'
import type { Database } from './open'
import { keepSetting, readSetting } from './setting'

const KEY = 'shop-id'

/** Names the shop in its backups and in its folder of shelves, so that one shop never takes those of another for its own. */
export function shopId(database: Database): string {
  const before = readSetting(database, KEY)
  if (before !== null) return before
  const id = randomUUID()
  keepSetting(database, KEY, id)
  return id
}
