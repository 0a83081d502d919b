import { hasOwner } from '../../people/store'
import { DEMO_PEOPLE } from '../../../stand-ins/shop/people'

/** Who is signed in, and what the pages before a sign-in have to know. */
export default defineOpenRoute({}, async ({ event, now }) => {
  const { database, isDemo } = useLantern()
  const person = await personOf(event).catch(() => null)
  return {
    person,
    now: new Date(now).toISOString(),
    needsOwner: !hasOwner(database),
    demoPeople: isDemo ? DEMO_PEOPLE.map(({ name, signIn, password, role }) => ({ name, signIn, password, role })) : [],
  }
})
