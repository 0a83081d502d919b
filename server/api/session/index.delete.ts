import { LeaveAnswer } from '../../../core/people/session'
import { addressFrom } from '../../people/sign-in'
import { logSecurity } from '../../people/security-log'
import { sessionCookie } from '../../people/session-cookie'
import { endSession, findSession, tellSessionsChanged } from '../../people/sessions'

/** Signs out: the session ends here, so that its cookie opens nothing any more, wherever it has been copied to. */
export default defineOpenRoute({ answers: LeaveAnswer }, ({ event, now }) => {
  const { database } = useLantern()
  const secret = sessionCookie.read(event)
  const session = secret === null ? null : findSession(database, secret)
  if (session) {
    endSession(database, session.id)
    logSecurity(database, { event: 'signed-out', by: session.person.name, address: addressFrom(event) }, now)
    tellSessionsChanged()
  }
  sessionCookie.clear(event)
  return { person: null }
})
