import { eq } from 'drizzle-orm'
import { defaultPlaybook, Playbook } from '../core/playbook/playbook'
import type { Database } from './db/open'
import { settings } from './db/tables'

const PLAYBOOK_KEY = 'playbook'
const REVISION_KEY = 'playbook-revision'

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
  const revision = String(playbookRevision(database) + 1)
  database
    .insert(settings)
    .values({ key: REVISION_KEY, value: revision })
    .onConflictDoUpdate({ target: settings.key, set: { value: revision } })
    .run()
}

/** Goes up with every change of the playbook, so that plans made with an older one are known. */
export function playbookRevision(database: Database): number {
  const row = database.select().from(settings).where(eq(settings.key, REVISION_KEY)).get()
  return row ? Number(row.value) : 0
}
