import { NewPerson, Person } from '../../../core/people/person'
import { requireStrong } from '../../people/common-passwords'
import { logForPerson } from '../../people/log-for-person'
import { addPerson } from '../../people/store'

export default defineRoute(
  { answers: Person, may: 'people', body: NewPerson },
  async ({ event, person, body, now }) => {
    const { database, hashes } = useLantern()
    const { password, ...rest } = body
    requireStrong(password, rest)
    const added = addPerson(database, { ...rest, passwordHash: await hashes.hash(password) }, now)
    logForPerson(event, person, { event: 'person-added', about: added.name })
    return added
  },
)
