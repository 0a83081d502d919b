import { and, eq, isNotNull, lte, or } from 'drizzle-orm'
import { wipeStandings, type WipeStanding } from '../../core/afterwards/standing'
import { DAY_MS } from '../../core/cases/shape/moment'
import { keepSetting, readSetting } from '../db/setting'
import { cases } from '../db/tables'
import type { Database } from '../db/open'
import { readStored, type StoredCase } from '../cases/rows'
import { logFault } from '../log-fault'
import { readPlaybook } from '../settings'
import { latestHistoryTime } from '../db/history/entries'
import { foldPending } from './fold-log'
import { settleWipes, wipeCase } from './wipe'

/** A part of a case whose date is near or past. */
export interface Dated {
  readonly stored: StoredCase
  readonly standing: WipeStanding
}

/** What is wiped until a moment (ms), of all cases; the earliest first. */
export function datedUntil(database: Database, until: number, now: number): Dated[] {
  const { shop } = readPlaybook(database)
  const { wipeDays, personDays } = shop.papers
  const ended = (days: number) => lte(cases.endedAt, until - days * DAY_MS)
  return database
    .select({ code: cases.code })
    .from(cases)
    .where(
      and(
        isNotNull(cases.endedAt),
        or(and(eq(cases.isDataWiped, false), ended(wipeDays)), and(eq(cases.isDataWiped, true), ended(personDays))),
      ),
    )
    .orderBy(cases.endedAt)
    .all()
    .flatMap(({ code }) => {
      const stored = readStored(database, code)
      return wipeStandings(stored.case, shop, now).map((standing) => ({ stored, standing }))
    })
    .filter(({ standing: { state, at } }) => state !== 'wiped' && at !== null && at <= until)
}

/** How many cases ask for a decision before they are wiped; stopped ones wait, and ask nothing. */
export function askingCases(database: Database, now: number): number {
  const asking = datedUntil(database, now, now).filter(({ standing }) => standing.state === 'asks')
  return new Set(asking.map(({ stored }) => stored.id)).size
}

/** Wipes whatever is due and asks for nothing. One case that cannot be wiped does not keep the others. */
export async function wipeDue(): Promise<void> {
  const { database, clock } = useLantern()
  const now = clock.now()
  foldPending(database)
  await settleWipes()
  if (clockJumpedFrom(database, now) !== null) return
  for (const { stored, standing } of datedUntil(database, now, now)) {
    const { code } = stored.case
    if (standing.state !== 'due') continue
    await wipeCase(code, { part: standing.part, by: null, why: 'date', now }).catch((error) => logFault(error, code))
  }
}

const SEEN = 'clock-seen'
/** A machine that was off for longer, or whose clock is wrong, would wipe what nobody has looked at. */
const MAX_JUMP_MS = 30 * DAY_MS

/**
 * The time from which the clock has jumped ahead, ms; null where it runs on as clocks do. While it has jumped, nothing is
 * wiped automatically until an owner says that the clock is right, or it is set back.
 */
export function clockJumpedFrom(database: Database, now: number): number | null {
  const seen = Number(readSetting(database, SEEN) ?? latestHistoryTime(database) ?? now)
  if (now - seen > MAX_JUMP_MS) return seen
  if (now !== seen) trustClock(database, now)
  return null
}

/** The clock is right at this time, ms. */
export const trustClock = (database: Database, now: number): void => keepSetting(database, SEEN, String(now))
