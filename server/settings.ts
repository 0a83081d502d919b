import { eq } from 'drizzle-orm'
import { defaultPlaybook, Playbook } from '../core/playbook/playbook'
import type { Database } from './db/open'
import { settings } from './db/tables'

const PLAYBOOK_KEY = 'playbook'

/** The shop's playbook, or the one that ships while the shop has changed nothing. */
export function readPlaybook(database: Database): Playbook {
  const row = database.select().from(settings).where(eq(settings.key, PLAYBOOK_KEY)).get()
  return row ? Playbook.parse(JSON.parse(row.value)) : defaultPlaybook()
}

export function writePlaybook(database: Database, playbook: Playbook): void {
  const value = JSON.stringify(playbook)
  database
    .insert(settings)
    .values({ key: PLAYBOOK_KEY, value })
    .onConflictDoUpdate({ target: settings.key, set: { value } })
    .run()
}
