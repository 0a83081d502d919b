import { createHash, randomBytes } from 'node:crypto'
import { EventEmitter } from 'node:events'
import { and, desc, eq, lt, ne, sql } from 'drizzle-orm'
import type { Person } from '../../core/people/person'
import { MAX_SESSION_MS, machineWords, standingOf, type SessionShape } from '../../core/people/session'
import type { Handle } from '../cases/rows'
import type { Database } from '../db/open'
import { people, sessions } from '../db/tables'

const SECRET_BYTES = 32
const MAX_AGENT = 200
/** Use is stored no more often than this, since each write is synced to disk. */
const NOTE_EVERY_MS = 20_000

/** A session as a request finds it. */
export interface FoundSession {
  readonly id: number
  readonly begun: number
  readonly used: number
  readonly person: Person
}

/** The stored form of a secret: reading the database lets nobody sign in. */
export const digestOf = (secret: string) => createHash('sha256').update(secret).digest('base64url')
export const newSecret = () => randomBytes(SECRET_BYTES).toString('base64url')

/** Called whenever sessions may have ended, for whatever is open on them. */
const endings = new EventEmitter().setMaxListeners(0)
/** Calls `check` whenever sessions end; returns the function that stops that. */
export function onSessionsChanged(listener: () => void): () => void {
  endings.on('changed', listener)
  return () => void endings.off('changed', listener)
}
export const tellSessionsChanged = () => void endings.emit('changed')

/** Starts a session for somebody whose password was checked; returns the secret for the cookie. */
export function beginSession(
  database: Handle,
  personId: number,
  from: { address: string; agent: string },
  now: number,
): string {
  const secret = newSecret()
  database
    .insert(sessions)
    .values({
      digest: digestOf(secret),
      personId,
      begun: now,
      used: now,
      address: from.address,
      agent: from.agent.slice(0, MAX_AGENT),
    })
    .run()
  database
    .delete(sessions)
    .where(lt(sessions.begun, now - MAX_SESSION_MS))
    .run()
  return secret
}

/** The session of a secret with the present role of its person; null where there is none. It may have expired. */
export function findSession(database: Database, secret: string): FoundSession | null {
  const row = database
    .select({ id: sessions.id, begun: sessions.begun, used: sessions.used, person: PERSON })
    .from(sessions)
    .innerJoin(people, eq(people.id, sessions.personId))
    .where(eq(sessions.digest, digestOf(secret)))
    .get()
  return row ?? null
}

const PERSON = { id: people.id, name: people.name, signIn: people.signIn, role: people.role }

/** Whether a session exists and is not over, and its person's role is unchanged. */
export function isStillOpen(
  database: Database,
  session: Pick<FoundSession, 'id' | 'person'>,
  now: number,
  idleMinutes: number,
): boolean {
  const row = database
    .select({ begun: sessions.begun, used: sessions.used, role: people.role })
    .from(sessions)
    .innerJoin(people, eq(people.id, sessions.personId))
    .where(eq(sessions.id, session.id))
    .get()
  return row?.role === session.person.role && standingOf(row, now, idleMinutes) === 'open'
}

/** Stores that a session was used at that moment (ms). */
export function noteUse(database: Database, { id, used }: FoundSession, at: number): void {
  if (at - used < NOTE_EVERY_MS) return
  database
    .update(sessions)
    .set({ used: sql`max(${sessions.used}, ${at})` })
    .where(eq(sessions.id, id))
    .run()
}

/** The open sessions of one person, latest use first. */
export function sessionsOf(
  database: Database,
  { id: own, person }: FoundSession,
  now: number,
  idleMinutes: number,
): SessionShape[] {
  return database
    .select()
    .from(sessions)
    .where(eq(sessions.personId, person.id))
    .orderBy(desc(sessions.used))
    .all()
    .flatMap((row) => {
      const standing = standingOf(row, now, idleMinutes)
      if (standing === 'over') return []
      return {
        id: row.id,
        begun: new Date(row.begun).toISOString(),
        used: new Date(row.used).toISOString(),
        address: row.address,
        machine: machineWords(row.agent),
        isThis: row.id === own,
        isIdle: standing === 'idle',
      }
    })
}

export function endSession(database: Handle, id: number): void {
  database.delete(sessions).where(eq(sessions.id, id)).run()
}

/** Ends all sessions of a person, or all but one; returns how many. */
export function endSessionsOf(database: Handle, personId: number, but: number | null = null): number {
  return database
    .delete(sessions)
    .where(and(eq(sessions.personId, personId), but === null ? undefined : ne(sessions.id, but)))
    .run().changes
}
