import { desc, eq, lt, sql } from 'drizzle-orm'
import type { SecurityEntry, SecurityEvent } from '../../core/people/security-log'
import type { Handle } from '../cases/rows'
import { securityLog } from '../db/tables'

/** How long entries are kept, and how many at most. */
const KEPT_MS = 400 * 86_400_000
const MAX_ENTRIES = 50_000
const MINUTE_MS = 60_000
const PRUNE_EVERY = 500

/** What happened: by whom and to whom where that is known, never what somebody typed. */
export interface Happened {
  readonly event: SecurityEvent
  readonly by?: string | null
  readonly about?: string | null
  readonly address?: string | null
}

/** Events that can come in floods. */
const REFUSALS: ReadonlySet<SecurityEvent> = new Set([
  'wrong-password',
  'unknown-name',
  'too-many-tries',
  'refused-role',
  'foreign-host',
  'foreign-origin',
  'too-large',
])

/** The entry of the same event within the last minute, which counts it: a flood is one row a minute. */
const recent = new Map<string, { id: number; begun: number; count: number }>()
const MAX_RECENT = 200

/** Writes an entry into the security log; the same refusal within a minute only raises its count. */
export function logSecurity(
  database: Handle,
  { event, by = null, about = null, address = null }: Happened,
  now: number,
) {
  const key = JSON.stringify([event, by, about, address])
  const known = REFUSALS.has(event) ? recent.get(key) : undefined
  if (known && Math.abs(now - known.begun) < MINUTE_MS) {
    known.count++
    // In a flood only powers of two are written: the count shown is at least half of the real one.
    if ((known.count & (known.count - 1)) === 0)
      database.update(securityLog).set({ count: known.count }).where(eq(securityLog.id, known.id)).run()
    return
  }
  const { id } = database
    .insert(securityLog)
    .values({ at: new Date(now).toISOString(), event, by, about, address })
    .returning({ id: securityLog.id })
    .get()
  if (recent.size >= MAX_RECENT) recent.delete(recent.keys().next().value!)
  recent.set(key, { id, begun: now, count: 1 })
  if (id % PRUNE_EVERY === 0) prune(database, id, now)
}

function prune(database: Handle, newest: number, now: number): void {
  database
    .delete(securityLog)
    .where(
      sql`${lt(securityLog.at, new Date(now - KEPT_MS).toISOString())} or ${lt(securityLog.id, newest - MAX_ENTRIES)}`,
    )
    .run()
}

/** A page of the security log, newest first; `before`: only entries with a smaller id. */
export function securityEntries(database: Handle, before: number | null, limit: number): SecurityEntry[] {
  return database
    .select()
    .from(securityLog)
    .where(before === null ? undefined : lt(securityLog.id, before))
    .orderBy(desc(securityLog.id))
    .limit(limit)
    .all()
}
