import { NewPerson } from '../../core/people/person'
import { addOwner, hasOwner } from '../people/store'
import { refused } from '../failure'

export default defineOpenRoute({ body: NewPerson.omit({ role: true }) }, async ({ event, body, now }) => {
  const { database } = useLantern()
  if (hasOwner(database)) throw refused('There is an owner already; sign in instead.')
  const { password, ...rest } = body
  const person = addOwner(database, { ...rest, passwordHash: await hashPassword(password) }, now)
  await replaceUserSession(event, { user: person })
  return { person }
})
