import ICAL from 'ical.js'
import { MINUTE_MS } from '../cases/shape/moment'
import { dateWords, type CaseDate } from './dates'

const LASTS_MS = 15 * MINUTE_MS

/**
 * Dates as one calendar (iCalendar, RFC 5545), with the shop’s name as that of the calendar. The same date keeps its UID, so
 * that a calendar that reads it again moves it.
 */
export function calendarOf(dates: readonly CaseDate[], shop: string, now: number): string {
  const calendar = new ICAL.Component(['vcalendar', [], []])
  calendar.addPropertyWithValue('version', '2.0')
  calendar.addPropertyWithValue('prodid', '-//Russet Lantern//EN')
  calendar.addPropertyWithValue('x-wr-calname', `${shop}: cases`)
  calendar.addPropertyWithValue('refresh-interval', 'PT15M')
  for (const date of dates) {
    const event = new ICAL.Component('vevent')
    event.addPropertyWithValue('uid', uidOf(date))
    event.addPropertyWithValue('dtstamp', time(now))
    event.addPropertyWithValue('dtstart', time(date.at))
    event.addPropertyWithValue('dtend', time(date.at + LASTS_MS))
    event.addPropertyWithValue('summary', dateWords(date))
    calendar.addSubcomponent(event)
  }
  return `${calendar.toString()}\r\n`
}

const uidOf = ({ code, kind, part }: CaseDate) =>
  `${[code, kind, part]
    .filter(Boolean)
    .join('-')
    .replace(/[^\w-]+/g, '-')}@russet-lantern`

const time = (ms: number) => ICAL.Time.fromJSDate(new Date(ms), true)
