import { eq } from 'drizzle-orm'
import { defaultPlaybook, Playbook } from '../core/playbook/playbook'
import { DEFAULT_IDLE_MINUTES } from '../core/people/session'
import { amended, type Amendment } from '../core/playbook/amending'
import type { Database } from './db/open'
import { settings } from './db/tables'
import { invalid } from './failure'

const PLAYBOOK_KEY = 'playbook'
const REVISION_KEY = 'playbook-revision'

/** The shop's playbook, or the shipped one where the shop has changed nothing. */
export function readPlaybook(database: Database): Playbook {
  const row = database.select().from(settings).where(eq(settings.key, PLAYBOOK_KEY)).get()
  const kept = read.get(database)
  // Every request reads it, and it changes a few times a year, so only a new text is parsed.
  if (kept && kept.text === row?.value) return kept.playbook
  const playbook = row ? Playbook.parse(JSON.parse(row.value)) : defaultPlaybook()
  read.set(database, { text: row?.value, playbook })
  return playbook
}

const read = new WeakMap<Database, { readonly text: string | undefined; readonly playbook: Playbook }>()

export function writePlaybook(database: Database, playbook: Playbook): void {
  database.transaction((transaction) => {
    const keep = (key: string, value: string) =>
      transaction
        .insert(settings)
        .values({ key, value })
        .onConflictDoUpdate({ target: settings.key, set: { value } })
        .run()
    keep(PLAYBOOK_KEY, JSON.stringify(playbook))
    keep(REVISION_KEY, String(playbookRevision(database) + 1))
  })
}

/** Changes one thing of the shop's playbook and returns the whole; throws a Failure where it is invalid. */
export function amendPlaybook(database: Database, amendment: Amendment): Playbook {
  return database.transaction(() => {
    const done = amended(readPlaybook(database), amendment)
    if (!done.ok) throw invalid([done.fault])
    writePlaybook(database, done.playbook)
    return done.playbook
  })
}

/** Goes up with every change of the playbook, so that plans made with an older one are recognised. */
export function playbookRevision(database: Database): number {
  const row = database.select().from(settings).where(eq(settings.key, REVISION_KEY)).get()
  return row ? Number(row.value) : 0
}

const IDLE_KEY = 'idle-minutes'

/** Minutes without use after which a session locks. */
export function idleMinutes(database: Database): number {
  const row = database.select().from(settings).where(eq(settings.key, IDLE_KEY)).get()
  return row ? Number(row.value) : DEFAULT_IDLE_MINUTES
}

export function setIdleMinutes(database: Database, minutes: number): void {
  const value = String(minutes)
  database
    .insert(settings)
    .values({ key: IDLE_KEY, value })
    .onConflictDoUpdate({ target: settings.key, set: { value } })
    .run()
}
