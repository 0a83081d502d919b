import { TZDate } from '@date-fns/tz'
import { differenceInCalendarDays } from 'date-fns'
import { DAY_MS, HOUR_MS } from '../../cases/shape/moment'
import { timeWords } from '../../local/dates'

export interface ClosingWords {
  /** "today 16:00", "tonight 02:00", "from tonight 22:00", "in 14–17 days", "open", "closed 3 Nov" */
  readonly words: string
  readonly urgency: 'closed' | 'soon' | 'later' | 'open'
}

/** How long until something is called soon, in hours: the shop's day and the night after it. */
const SOON_HOURS = 24

/**
 * When something closes, in the words of the counter: by the clock within a day, by the day within a week, by a range
 * of days after that. A range is never reduced to a single date.
 */
export function closingWords(closes: readonly [string | null, string | null], now: number, zone: string): ClosingWords {
  const [earliest, latest] = closes.map((iso) => (iso === null ? null : Date.parse(iso))) as [
    number | null,
    number | null,
  ]
  if (earliest === null) return { words: 'open', urgency: 'open' }
  const last = latest ?? earliest
  if (last <= now) return { words: `closed ${timeWords(last, zone, 'd MMM')}`, urgency: 'closed' }
  if (earliest <= now)
    return {
      words:
        last - now < DAY_MS ? `any hour now, by ${clockWords(last, now, zone)}` : `any day, by ${dayOf(last, zone)}`,
      urgency: 'soon',
    }
  if (earliest - now < SOON_HOURS * HOUR_MS) {
    const isNarrow = last - earliest <= 12 * HOUR_MS
    return {
      words: isNarrow ? clockWords(earliest, now, zone) : `from ${clockWords(earliest, now, zone)}`,
      urgency: 'soon',
    }
  }
  const from = differenceInCalendarDays(new TZDate(earliest, zone), new TZDate(now, zone))
  const to = differenceInCalendarDays(new TZDate(last, zone), new TZDate(now, zone))
  if (from > 60) return { words: `from ${timeWords(earliest, zone, 'MMM yyyy')}`, urgency: 'later' }
  return {
    words: from === to ? (from === 1 ? 'tomorrow' : `in ${from} days`) : `in ${from}–${to} days`,
    urgency: 'later',
  }
}

const dayOf = (time: number, zone: string) => timeWords(time, zone, 'EEE d MMM')

/** "today 16:00", "tonight 02:00", "tomorrow 09:30": the small hours belong to the night before. */
function clockWords(time: number, now: number, zone: string): string {
  const at = new TZDate(time, zone)
  const clock = timeWords(time, zone, 'HH:mm')
  const days = differenceInCalendarDays(at, new TZDate(now, zone))
  const isNight = at.getHours() < 6 || at.getHours() >= 20
  if (days === 0) return isNight && at.getHours() >= 20 ? `tonight ${clock}` : `today ${clock}`
  if (days === 1 && at.getHours() < 6) return `tonight ${clock}`
  return days === 1 ? `tomorrow ${clock}` : `${timeWords(time, zone, 'EEE')} ${clock}`
}

/** The same where there is little room: "2–12 days", "by Fri 27 Nov". */
export function shorterClosing(words: string): string {
  return words.replace(/^in /, '').replace(/^any (day|hour now), /, '')
}
