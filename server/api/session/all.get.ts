import { SessionList } from '../../../core/people/session'
import { sessionsOf } from '../../people/sessions'
import { idleMinutes } from '../../settings'

/** One's own sessions, on whatever machines. */
export default defineRoute({ answers: SessionList, may: 'see' }, ({ session, now }) => {
  const { database } = useLantern()
  return { sessions: sessionsOf(database, session, now, idleMinutes(database)) }
})
