import { gunzipSync, gzipSync } from 'node:zlib'
import { desc, eq } from 'drizzle-orm'
import { sameValue } from '../../core/cases/shape/same-value'
import { amended, type Amendment } from '../../core/playbook/amending'
import type { PlaybookVersion } from '../../core/playbook/draft'
import { Playbook } from '../../core/playbook/playbook'
import { upToDate } from '../../core/playbook/up-to-date'
import type { Database } from '../db/open'
import { playbookVersions } from '../db/tables'
import { invalid, notFound } from '../failure'
import { readPlaybook, writePlaybook } from '../settings'

/** Who changes the playbook, when (ms), and why. */
export interface Change {
  readonly by: string
  readonly now: number
  readonly reason: string
}

/** What a version holds: routes and weights. Name, papers and models of the shop are no part of it. */
const heldOf = ({ kinds, bases, shop }: Playbook) => ({ kinds, bases, weights: shop.weights })

/** Stores a playbook; where its routes or weights have changed, as a new version. In the caller's transaction. */
export function keepVersion(database: Database, playbook: Playbook, { by, now, reason }: Change): void {
  const before = readPlaybook(database)
  writePlaybook(database, playbook)
  if (sameValue(heldOf(before), heldOf(playbook))) return
  const at = new Date(now).toISOString()
  const isFirst = database.select({ id: playbookVersions.id }).from(playbookVersions).limit(1).get() === undefined
  const insert = (row: { by: string; reason: string; of: Playbook }) =>
    database
      .insert(playbookVersions)
      .values({ at, by: row.by, reason: row.reason, body: gzipSync(JSON.stringify(row.of)) })
      .run()
  // There is always one to go back to.
  if (isFirst) insert({ by: 'Russet Lantern', reason: 'before the first change', of: before })
  insert({ by, reason, of: playbook })
}

/** Every version, newest first. */
export const versionsOf = (database: Database): PlaybookVersion[] =>
  database
    .select({
      id: playbookVersions.id,
      at: playbookVersions.at,
      by: playbookVersions.by,
      reason: playbookVersions.reason,
    })
    .from(playbookVersions)
    .orderBy(desc(playbookVersions.id))
    .limit(500)
    .all()

/** Goes back to the routes and weights of an earlier version, which is a change like any other; throws a Failure where there is none. */
export function backToVersion(database: Database, id: number, change: Change): Playbook {
  return database.transaction(
    () => {
      const row = database.select().from(playbookVersions).where(eq(playbookVersions.id, id)).get()
      if (!row) throw notFound('such version of the playbook')
      const was = upToDate(Playbook.parse(JSON.parse(gunzipSync(row.body).toString('utf8'))))
      const now = readPlaybook(database)
      const { kinds, bases, weights } = heldOf(was)
      keepVersion(database, { ...now, kinds, bases, shop: { ...now.shop, weights } }, change)
      return readPlaybook(database)
    },
    { behavior: 'immediate' },
  )
}

/** Changes one thing of the shop's playbook and returns the whole; throws a Failure where it is invalid. */
export function amendPlaybook(database: Database, amendment: Amendment, { by, now }: Omit<Change, 'reason'>): Playbook {
  return database.transaction(
    () => {
      const done = amended(readPlaybook(database), amendment)
      if (!done.ok) throw invalid([done.fault])
      keepVersion(database, done.playbook, { by, now, reason: reasonOf(amendment) })
      return done.playbook
    },
    { behavior: 'immediate' },
  )
}

const reasonOf = (amendment: Amendment) =>
  amendment.what === 'weight' ? `weight ${amendment.which}: ${amendment.is}` : amendment.what
