import { fillWithDemo } from '../demo'
import { addPerson, hasOwner } from '../people/store'
import { DEMO_PEOPLE } from '../../stand-ins/shop/people'

/** Fills an empty shop with the demo's people and cases; one that has people is left as it is. No route answers before. */
export default defineNitroPlugin(() => {
  const lantern = useLantern()
  if (lantern.isDemo && !hasOwner(lantern.database)) lantern.ready = fill(lantern)
})

async function fill({ database, clock }: ReturnType<typeof useLantern>): Promise<void> {
  fillWithDemo(database, clock.now())
  for (const { password, ...person } of DEMO_PEOPLE)
    addPerson(database, { ...person, passwordHash: await hashPassword(password) }, clock.now())
}
