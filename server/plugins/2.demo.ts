import { fillWithDemo } from '../demo'
import { addPerson, hasOwner } from '../people/store'
import { DEMO_PEOPLE } from '../../stand-ins/shop/people'

/** Fills an empty shop with the demo's people and cases; one that has people is left as it is. */
export default defineNitroPlugin(async () => {
  const { database, clock, isDemo } = useLantern()
  if (!isDemo || hasOwner(database)) return
  fillWithDemo(database, clock.now())
  for (const { password, ...person } of DEMO_PEOPLE)
    addPerson(database, { ...person, passwordHash: await hashPassword(password) }, clock.now())
})
