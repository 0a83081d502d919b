import { EnterAnswer } from '../../core/people/session'
import { NewPerson } from '../../core/people/person'
import { refused } from '../failure'
import { requireStrong } from '../people/common-passwords'
import { openSession } from '../people/sign-in'
import { logForPerson } from '../people/log-for-person'
import { addOwner, hasOwner } from '../people/store'
import { ShopStart } from '../../core/playbook/shop'
import { readPlaybook, writePlaybook } from '../settings'

export default defineOpenRoute(
  { answers: EnterAnswer, body: NewPerson.omit({ role: true }).extend({ shop: ShopStart.optional() }) },
  async ({ event, body }) => {
    const { database, hashes, clock } = useLantern()
    if (hasOwner(database)) throw refused('There is already an owner. Sign in instead.')
    const { password, shop, ...rest } = body
    requireStrong(password, rest)
    const person = addOwner(database, { ...rest, passwordHash: await hashes.hash(password) }, clock.now())
    const playbook = readPlaybook(database)
    if (shop) writePlaybook(database, { ...playbook, shop: { ...playbook.shop, ...shop } })
    openSession(event, database, person.id, clock.now())
    logForPerson(event, person, { event: 'owner-made' })
    return { person }
  },
)
