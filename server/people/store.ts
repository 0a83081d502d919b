import { eq } from 'drizzle-orm'
import type { NewPerson, Person } from '../../core/people/person'
import type { Database } from '../db/open'
import { people } from '../db/tables'
import { Failure } from '../failure'

export const hasOwner = (database: Database) =>
  database.select({ id: people.id }).from(people).where(eq(people.role, 'owner')).limit(1).get() !== undefined

export function listPeople(database: Database): Person[] {
  return database
    .select({ id: people.id, name: people.name, signIn: people.signIn, role: people.role })
    .from(people)
    .orderBy(people.name)
    .all()
}

export const findPerson = (database: Database, signIn: string) =>
  database.select().from(people).where(eq(people.signIn, signIn)).get()

/** True while this person still works here, so that a session outlives nobody. */
export const personExists = (database: Database, id: number) =>
  database.select({ id: people.id }).from(people).where(eq(people.id, id)).get() !== undefined

/** Adds somebody; the password comes hashed. */
export function addPerson(
  database: Database,
  person: Omit<NewPerson, 'password'> & { passwordHash: string },
  now: number,
): Person {
  return database.transaction(
    (handle) => {
      const taken = handle.select({ id: people.id }).from(people).where(eq(people.signIn, person.signIn)).get()
      if (taken)
        throw new Failure('refused', `Somebody signs in as ${person.signIn} already.`, {
          fields: [{ path: 'signIn', message: 'is taken' }],
        })
      return handle
        .insert(people)
        .values({ ...person, createdAt: new Date(now).toISOString() })
        .returning({ id: people.id, name: people.name, signIn: people.signIn, role: people.role })
        .get()
    },
    { behavior: 'immediate' },
  )
}

/** The first person, who owns the shop; refused once there is one. */
export function addOwner(
  database: Database,
  person: Omit<NewPerson, 'password' | 'role'> & { passwordHash: string },
  now: number,
): Person {
  if (hasOwner(database)) throw new Failure('refused', 'There is an owner already; sign in instead.')
  return addPerson(database, { ...person, role: 'owner' }, now)
}
