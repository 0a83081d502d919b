import { calendarFor } from '../../calendar/calendar'

/** One's own dates as a calendar file. */
export default defineRoute({ answers: null, may: 'see' }, ({ event, person, playbook, now }) => {
  setResponseHeaders(event, {
    'content-type': 'text/calendar; charset=utf-8',
    'content-disposition': 'attachment; filename="cases.ics"',
  })
  return calendarFor(person, playbook, now)
})
