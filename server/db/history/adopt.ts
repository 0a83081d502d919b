import type { Database } from '../connect'
import { appendHistory, type Happening } from './entries'

interface EarlierRow {
  readonly case_id: number
  readonly version: number
  readonly at: string
  readonly by: string
  readonly kind: Happening['kind']
  readonly fact: string
  readonly was: string
  readonly is: string
}

/**
 * Adds the entries from before there was a chain to it, in their order and marked as such, and removes them from where
 * they were. Either all of them or none.
 */
export function adoptEarlierHistory(database: Database): void {
  const client = database.$client
  const isThere = client.prepare("select 1 from sqlite_master where name = 'history_before'").get()
  if (!isThere) return
  database.transaction(
    (handle) => {
      const rows = client.prepare('select * from history_before order by id').all() as EarlierRow[]
      for (const { case_id: caseId, version, at, by, kind, fact, was, is } of rows)
        appendHistory(handle, { caseId, version, at, by, isEarlier: true }, [
          { kind, fact, was: JSON.parse(was), is: JSON.parse(is) },
        ])
      client.exec('drop table history_before')
    },
    { behavior: 'immediate' },
  )
}
