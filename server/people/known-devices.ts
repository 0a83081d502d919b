import { and, desc, eq, lt, notInArray } from 'drizzle-orm'
import type { Handle } from '../cases/rows'
import { knownDevices } from '../db/tables'

/** A browser that nobody signs in with for this long is no longer known. */
export const KNOWN_FOR_MS = 180 * 86_400_000
const MAX_PER_PERSON = 40

/** Whether this person has signed in before with the browser whose secret has this digest. */
export function isKnownDevice(database: Handle, digest: string, personId: number, now: number): boolean {
  const row = database
    .select({ used: knownDevices.used })
    .from(knownDevices)
    .where(and(eq(knownDevices.digest, digest), eq(knownDevices.personId, personId)))
    .get()
  return row !== undefined && now - row.used < KNOWN_FOR_MS
}

/** From now on this browser is one of that person's. */
export function rememberDevice(database: Handle, digest: string, personId: number, now: number): void {
  database
    .insert(knownDevices)
    .values({ digest, personId, used: now })
    .onConflictDoUpdate({ target: [knownDevices.digest, knownDevices.personId], set: { used: now } })
    .run()
  database
    .delete(knownDevices)
    .where(lt(knownDevices.used, now - KNOWN_FOR_MS))
    .run()
  const kept = database
    .select({ digest: knownDevices.digest })
    .from(knownDevices)
    .where(eq(knownDevices.personId, personId))
    .orderBy(desc(knownDevices.used))
    .limit(MAX_PER_PERSON)
  database
    .delete(knownDevices)
    .where(and(eq(knownDevices.personId, personId), notInArray(knownDevices.digest, kept)))
    .run()
}

/** Forgets all browsers of a person, when somebody else sets their password. */
export function forgetDevices(database: Handle, personId: number): void {
  database.delete(knownDevices).where(eq(knownDevices.personId, personId)).run()
}
