import { calendarFor } from '../../../calendar/calendar'
import { personOfFeed } from '../../../calendar/feeds'
import { notFound } from '../../../failure'
import { readPlaybook } from '../../../settings'

/** A person's calendar for a program that cannot sign in: whoever has the address reads codes and dates, and nothing else. */
export default defineOpenRoute({ answers: null }, ({ event, now }) => {
  const { database } = useLantern()
  const person = personOfFeed(database, (getRouterParam(event, 'secret') ?? '').replace(/\.ics$/, ''))
  if (!person) throw notFound('such calendar')
  setResponseHeader(event, 'content-type', 'text/calendar; charset=utf-8')
  return calendarFor(person, readPlaybook(database), now)
})
