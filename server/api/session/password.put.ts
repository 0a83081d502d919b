import { OwnPassword } from '../../../core/people/person'
import { changeOwnPassword } from '../../people/change-password'
import { logForPerson } from '../../people/log-for-person'
import { openSession } from '../../people/sign-in'

/** A new password of one's own: all other sessions end, and this one continues with a new secret. */
export default defineRoute({ answers: null, may: 'see', body: OwnPassword }, async ({ event, body, session }) => {
  const lantern = useLantern()
  await changeOwnPassword(event, lantern, session, body)
  openSession(event, lantern.database, session.person.id, lantern.clock.now())
  logForPerson(event, session.person, { event: 'password-changed' })
})
