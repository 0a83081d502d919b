import { sessionsOf } from '../../people/sessions'
import { idleMinutes } from '../../settings'

/** One's own sessions, on whatever machines. */
export default defineRoute({ may: 'see' }, ({ session, now }) => {
  const { database } = useLantern()
  return { sessions: sessionsOf(database, session, now, idleMinutes(database)) }
})
