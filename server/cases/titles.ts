import QuickLRU from 'quick-lru'
import { titleOf } from '../../core/cases/telling/title'
import type { Database } from '../db/open'
import { readStored } from './rows'

/** Titles by case and version: a case is parsed only where it has changed. */
const kept = new WeakMap<Database, QuickLRU<string, string>>()

/** The title of a case in this version. */
export function titleIn(database: Database, { code, version }: { code: string; version: number }): string {
  const titles = kept.get(database) ?? new QuickLRU<string, string>({ maxSize: 2000 })
  kept.set(database, titles)
  const key = `${code} ${version}`
  const known = titles.get(key)
  if (known !== undefined) return known
  const title = titleOf(readStored(database, code).case)
  titles.set(key, title)
  return title
}
