import QuickLRU from 'quick-lru'
import { TZDate } from '@date-fns/tz'
import { addDays, format, lastDayOfMonth } from 'date-fns'
import { MINUTE_MS } from '../cases/shape/moment'

/** No zone changes its clock twice within this time. */
const QUARTER_MS = 15 * MINUTE_MS
const known = new QuickLRU<string, string>({ maxSize: 20_000 })

/**
 * The day of a moment (ms) in a zone, YYYY-MM-DD; cached for each quarter of an hour, since long lists ask for the same
 * ones again and again.
 */
export function dayIn(zone: string, ms: number): string {
  const key = `${zone} ${Math.floor(ms / QUARTER_MS)}`
  const before = known.get(key)
  if (before !== undefined) return before
  const day = format(new TZDate(ms, zone), 'yyyy-MM-dd')
  known.set(key, day)
  return day
}

/** The days from one to another, both included; none where the first is the later one. */
export function daysFrom(first: string, last: string): string[] {
  const days: string[] = []
  for (let at = dateOf(first); iso(at) <= last; at = addDays(at, 1)) days.push(iso(at))
  return days
}

/** The first and the last day of a month (YYYY-MM), or of a day that day itself. */
export function endsOf(day: string): { readonly first: string; readonly last: string } {
  if (day.length !== 7) return { first: day, last: day }
  const first = `${day}-01`
  return { first, last: iso(lastDayOfMonth(dateOf(first))) }
}

/** Days are counted at noon UTC, which no change of a clock reaches. */
const dateOf = (day: string) => new TZDate(Date.parse(`${day}T12:00:00Z`), 'UTC')
const iso = (date: Date) => format(date, 'yyyy-MM-dd')
