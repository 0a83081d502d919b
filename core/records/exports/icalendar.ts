import ICAL from 'ical.js'
import { only, type RecordFormat } from './record-format'

/** iCalendar (RFC 5545), one calendar of all entries. */
export const icalendar: RecordFormat = {
  id: 'icalendar',
  title: 'iCalendar',
  extension: 'ics',
  mime: 'text/calendar',
  kinds: ['event'],
  write,
}

function write(records: Parameters<RecordFormat['write']>[0]): string {
  const calendar = new ICAL.Component(['vcalendar', [], []])
  calendar.addPropertyWithValue('version', '2.0')
  calendar.addPropertyWithValue('prodid', '-//Russet Lantern//EN')
  for (const [at, event] of only(records, 'event').entries()) {
    const component = new ICAL.Component('vevent')
    component.addPropertyWithValue('uid', `${at}-${event.starts ?? 'undated'}@russet-lantern`)
    component.addPropertyWithValue('dtstamp', time(event.starts ?? '1970-01-01T00:00:00Z'))
    component.addPropertyWithValue('summary', event.title)
    if (event.starts) component.addPropertyWithValue('dtstart', time(event.starts, event.isAllDay))
    if (event.ends) component.addPropertyWithValue('dtend', time(event.ends, event.isAllDay))
    if (event.place !== '') component.addPropertyWithValue('location', event.place)
    if (event.note !== '') component.addPropertyWithValue('description', event.note)
    calendar.addSubcomponent(component)
  }
  return `${calendar.toString()}\r\n`
}

function time(iso: string, isDate = false): ICAL.Time {
  const at = ICAL.Time.fromJSDate(new Date(iso), true)
  if (isDate) at.isDate = true
  return at
}
