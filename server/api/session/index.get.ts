import { DEMO_PEOPLE } from '../../../stand-ins/shop/people'
import { SessionAnswer } from '../../../core/people/session'
import { Failure } from '../../failure'
import { requireSession } from '../../people/request-session'
import { hasOwner } from '../../people/store'
import { diskRoom } from '../../shelf/room'
import { idleMinutes, readPlaybook } from '../../settings'

/** Who is signed in, and what the pages need before anybody is. */
export default defineOpenRoute({ answers: SessionAnswer }, async ({ event, now }) => {
  const { database, isDemo } = useLantern()
  const person = signedIn(() => requireSession(event, database, now).person)
  const needsOwner = !hasOwner(database)
  return {
    person,
    now: new Date(now).toISOString(),
    needsOwner,
    start: needsOwner ? { dataFolder: dataFolder(), free: await diskRoom() } : null,
    idleMinutes: idleMinutes(database),
    shop: person && readPlaybook(database).shop,
    demoPeople: isDemo ? DEMO_PEOPLE.map(({ name, signIn, password, role }) => ({ name, signIn, password, role })) : [],
  }
})

/** Nobody, where the session has ended: here that is no failure. */
function signedIn<T>(read: () => T): T | null {
  try {
    return read()
  } catch (error) {
    if (error instanceof Failure && error.status === 401) return null
    throw error
  }
}
