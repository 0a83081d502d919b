import { eq } from 'drizzle-orm'
import type { FeedAnswer } from '../../core/calendar/feed'
import { ROLES, type Person } from '../../core/people/person'
import type { Database } from '../db/open'
import { feeds, people } from '../db/tables'
import { digestOf, newSecret } from '../people/sessions'

/** The secret part of an address; anything else is not looked up. */
const SECRET = /^[A-Za-z0-9_-]{43}$/
const pathOf = (secret: string) => `/api/calendar/feed/${secret}.ics`

export function feedOf(database: Database, person: number): FeedAnswer {
  const row = database.select().from(feeds).where(eq(feeds.personId, person)).get()
  return { since: row?.at ?? null, path: null }
}

/** Opens a new secret address for a person, in place of an earlier one; only its digest is stored. */
export function openFeed(database: Database, personId: number, now: number): FeedAnswer {
  const secret = newSecret()
  const row = { digest: digestOf(secret), at: new Date(now).toISOString() }
  database
    .insert(feeds)
    .values({ personId, ...row })
    .onConflictDoUpdate({ target: feeds.personId, set: row })
    .run()
  return { since: row.at, path: pathOf(secret) }
}

export function closeFeed(database: Database, personId: number): FeedAnswer {
  database.delete(feeds).where(eq(feeds.personId, personId)).run()
  return { since: null, path: null }
}

/** Whose calendar is at a secret address, with their present role; null for any other. It goes with the access of the person. */
export function personOfFeed(database: Database, secret: string): Person | null {
  if (!SECRET.test(secret)) return null
  const row = database
    .select({ id: people.id, name: people.name, signIn: people.signIn, role: people.role })
    .from(feeds)
    .innerJoin(people, eq(people.id, feeds.personId))
    .where(eq(feeds.digest, digestOf(secret)))
    .get()
  return row && ROLES.includes(row.role) ? row : null
}
