import { SessionList } from '../../../core/people/session'
import { endSessionsOf, sessionsOf, tellSessionsChanged } from '../../people/sessions'
import { logForPerson } from '../../people/log-for-person'
import { idleMinutes } from '../../settings'

/** Ends all of one's own sessions but this one. */
export default defineRoute({ answers: SessionList, may: 'see' }, ({ session, event, now }) => {
  const { database } = useLantern()
  const ended = endSessionsOf(database, session.person.id, session.id)
  if (ended > 0) logForPerson(event, session.person, { event: 'sessions-ended' })
  tellSessionsChanged()
  return { sessions: sessionsOf(database, session, now, idleMinutes(database)) }
})
