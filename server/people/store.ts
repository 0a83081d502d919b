import { and, eq, ne } from 'drizzle-orm'
import type { NewPerson, Person, Role } from '../../core/people/person'
import type { Handle, Writer } from '../cases/rows'
import type { Database } from '../db/open'
import { people } from '../db/tables'
import { Failure, notFound, refused } from '../failure'
import { countHeldBy, passOn } from './pass-on'

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

export const findPersonById = (database: Database, id: number) =>
  database.select().from(people).where(eq(people.id, id)).get()

/** Adds somebody; the password is already hashed. */
export function addPerson(
  database: Database,
  person: Omit<NewPerson, 'password'> & { passwordHash: string },
  now: number,
): Person {
  return database.transaction(
    (handle) => {
      const taken = handle.select({ id: people.id }).from(people).where(eq(people.signIn, person.signIn)).get()
      if (taken)
        throw new Failure('refused', `The sign-in name ${person.signIn} is taken.`, {
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
  if (hasOwner(database)) throw new Failure('refused', 'There is already an owner. Sign in instead.')
  return addPerson(database, { ...person, role: 'owner' }, now)
}

/** Stores a password, already hashed; where somebody else set it, every open session of the person ends. */
export function setPassword(database: Database, id: number, passwordHash: string): void {
  const { changes } = database.update(people).set({ passwordHash }).where(eq(people.id, id)).run()
  if (changes === 0) throw notFound('such person')
}

/** Gives somebody another role. The last owner stays one. */
export function setRole(database: Database, id: number, role: Role): Person {
  return database.transaction(
    (handle) => {
      const person = personIn(handle, id)
      if (role !== 'owner') requireOtherOwner(handle, person)
      handle.update(people).set({ role }).where(eq(people.id, id)).run()
      return { id, name: person.name, signIn: person.signIn, role }
    },
    { behavior: 'immediate' },
  )
}

/**
 * Removes somebody’s access: their sessions end, and their open cases and runs are passed on. Throws a Failure for the last owner,
 * and where there are open cases and nobody takes them over.
 */
export function removePerson(database: Database, id: number, successor: number | null, writer: Writer): Person {
  return database.transaction(
    (handle) => {
      const person = personIn(handle, id)
      requireOtherOwner(handle, person)
      const held = countHeldBy(handle, person.name)
      if (held > 0 && successor === null)
        throw refused(
          `${person.name} has ${held === 1 ? 'an open case' : `${held} open cases`}. Choose who takes ${held === 1 ? 'it' : 'them'} over.`,
        )
      if (successor !== null) {
        const next = personIn(handle, successor)
        if (next.id === id) throw refused('Choose somebody else.')
        passOn(handle, person.name, next.name, writer)
      }
      handle.delete(people).where(eq(people.id, id)).run()
      return { id, name: person.name, signIn: person.signIn, role: person.role }
    },
    { behavior: 'immediate' },
  )
}

function personIn(handle: Handle, id: number) {
  const person = handle.select().from(people).where(eq(people.id, id)).get()
  if (!person) throw notFound('such person')
  return person
}

function requireOtherOwner(handle: Handle, { id, role }: Pick<Person, 'id' | 'role'>): void {
  const other = handle
    .select({ id: people.id })
    .from(people)
    .where(and(eq(people.role, 'owner'), ne(people.id, id)))
    .get()
  if (role === 'owner' && !other) throw refused('A shop needs an owner. Make somebody else an owner first.')
}
