import { Draft, withChange, withDraft, type DraftAnswer, type DraftChange } from '../../core/playbook/draft'
import type { Playbook } from '../../core/playbook/playbook'
import { clashesOf } from '../../core/playbook/up-to-date'
import { sameValue } from '../../core/cases/shape/same-value'
import type { Database } from '../db/open'
import { keepSetting, readSetting } from '../db/setting'
import { invalid, refused } from '../failure'
import { readPlaybook } from '../settings'
import { keepVersion, type Change } from './versions'

const KEY = 'playbook-draft'

/** The draft of the shop; null where there is none. */
export function readDraft(database: Database): Draft | null {
  const text = readSetting(database, KEY)
  return text === null || text === '' ? null : Draft.parse(JSON.parse(text))
}

const keepDraft = (database: Database, draft: Draft | null) =>
  keepSetting(database, KEY, draft ? JSON.stringify(draft) : '')

export const draftAnswer = (database: Database): DraftAnswer => {
  const draft = readDraft(database)
  const playbook = readPlaybook(database)
  return { draft, clashes: clashesOf(draft ? withDraft(playbook, draft) : playbook) }
}

/** Changes the draft; throws a Failure in the schema's own words where the change cannot be. */
export function changeDraft(
  database: Database,
  change: DraftChange,
  { by, now }: Pick<Change, 'by' | 'now'>,
): DraftAnswer {
  return database.transaction(
    () => {
      const at = new Date(now).toISOString()
      const before = readDraft(database) ?? { kinds: [], removed: [], settled: [], by, at }
      const done = withChange(readPlaybook(database), before, change)
      if (!done.ok) throw invalid([done.fault])
      const { kinds, removed, settled } = done.draft
      const isEmpty = kinds.length + removed.length + settled.length === 0
      keepDraft(database, isEmpty ? null : { ...done.draft, by, at })
      return draftAnswer(database)
    },
    { behavior: 'immediate' },
  )
}

export function dropDraft(database: Database): DraftAnswer {
  keepDraft(database, null)
  return draftAnswer(database)
}

/** Takes the draft over into the playbook; throws a Failure where there is none. */
export function takeDraft(database: Database, change: Change): Playbook {
  return database.transaction(
    () => {
      const draft = readDraft(database)
      if (!draft) throw refused('There is no draft. Somebody has taken it over or dropped it.')
      keepVersion(database, withDraft(readPlaybook(database), draft), change)
      keepDraft(database, null)
      return readPlaybook(database)
    },
    { behavior: 'immediate' },
  )
}

/**
 * The kinds of another playbook that differ from ours, as a draft: nothing is taken over before it was tried. Throws a Failure where
 * there is a draft already, and where a kind is part of one that neither playbook has.
 */
export function draftFromFile(
  database: Database,
  { kinds }: Playbook,
  { by, now }: Pick<Change, 'by' | 'now'>,
): DraftAnswer {
  return database.transaction(
    () => {
      if (readDraft(database)) throw refused('There is a draft already. Take it over or drop it first.')
      const playbook = readPlaybook(database)
      const own = new Map(playbook.kinds.map((kind) => [kind.id, kind]))
      const changed = kinds.filter((kind) => !sameValue(own.get(kind.id) ?? null, kind))
      if (changed.length === 0) throw refused('The routes of this file are the same as the shop’s.')
      const ids = new Set([...own.keys(), ...kinds.map(({ id }) => id)])
      const loose = changed.find(({ nested }) => nested !== undefined && !ids.has(nested))
      if (loose) throw invalid([{ path: `${loose.id}.nested`, message: 'is no kind of route' }])
      keepDraft(database, { kinds: changed, removed: [], settled: [], by, at: new Date(now).toISOString() })
      return draftAnswer(database)
    },
    { behavior: 'immediate' },
  )
}
