import { defaultPlaybook, Playbook } from '../core/playbook/playbook'
import { speak } from '../core/local/language'
import { DEFAULT_IDLE_MINUTES } from '../core/people/session'
import { upToDate } from '../core/playbook/up-to-date'
import type { Database } from './db/open'
import { keepSetting, readSetting } from './db/setting'

const PLAYBOOK_KEY = 'playbook'
const REVISION_KEY = 'playbook-revision'

/** The shop's playbook, or the shipped one where the shop has changed nothing. */
export function readPlaybook(database: Database): Playbook {
  const text = readSetting(database, PLAYBOOK_KEY)
  const kept = read.get(database)
  // Every request reads it, and it changes a few times a year, so only a new text is parsed.
  if (kept && kept.text === text) return kept.playbook
  const playbook = text === null ? defaultPlaybook() : upToDate(Playbook.parse(JSON.parse(text)))
  read.set(database, { text, playbook })
  // A language is loaded in a moment; who changes it waits for it.
  void speak(playbook.shop.language)
  return playbook
}

const read = new WeakMap<Database, { readonly text: string | null; readonly playbook: Playbook }>()

export function writePlaybook(database: Database, playbook: Playbook): void {
  database.transaction((transaction) => {
    keepSetting(transaction, PLAYBOOK_KEY, JSON.stringify(playbook))
    keepSetting(transaction, REVISION_KEY, String(playbookRevision(database) + 1))
  })
}

/** Goes up with every change of the playbook, so that plans made with an older one are recognised. */
export function playbookRevision(database: Database): number {
  return Number(readSetting(database, REVISION_KEY) ?? 0)
}

const IDLE_KEY = 'idle-minutes'

/** Minutes without use after which a session locks. */
export function idleMinutes(database: Database): number {
  return Number(readSetting(database, IDLE_KEY) ?? DEFAULT_IDLE_MINUTES)
}

export function setIdleMinutes(database: Database, minutes: number): void {
  keepSetting(database, IDLE_KEY, String(minutes))
}
