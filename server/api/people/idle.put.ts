import { IdleLimit } from '../../../core/people/session'
import { logForPerson } from '../../people/log-for-person'
import { tellSessionsChanged } from '../../people/sessions'
import { setIdleMinutes } from '../../settings'

/** After how many minutes without use the sessions of this shop lock. */
export default defineRoute({ answers: IdleLimit, may: 'people', body: IdleLimit }, ({ event, person, body }) => {
  setIdleMinutes(useLantern().database, body.minutes)
  logForPerson(event, person, { event: 'idle-limit-set', about: `${body.minutes} minutes` })
  tellSessionsChanged()
  return { minutes: body.minutes }
})
