import { EnterAnswer } from '../../core/people/session'
import { NewPerson } from '../../core/people/person'
import { refused } from '../failure'
import { requireStrong } from '../people/common-passwords'
import { openSession } from '../people/sign-in'
import { logForPerson } from '../people/log-for-person'
import { addOwner, hasOwner } from '../people/store'
import { ShopStart } from '../../core/playbook/shop'
import { setShelfPlace } from '../shelf/place'
import { ShelfPlaceWish } from '../../core/bench/shelf-place'
import { readPlaybook, writePlaybook } from '../settings'

export default defineOpenRoute(
  {
    answers: EnterAnswer,
    body: NewPerson.omit({ role: true }).extend({
      shop: ShopStart.optional(),
      shelf: ShelfPlaceWish.shape.folder.optional(),
    }),
  },
  async ({ event, body }) => {
    const { database, hashes, clock } = useLantern()
    if (hasOwner(database)) throw refused('There is already an owner. Sign in instead.')
    const { password, shop, shelf, ...rest } = body
    requireStrong(password, rest)
    if (shelf) await setShelfPlace(database, { folder: shelf, maxGigabytes: null })
    const person = addOwner(database, { ...rest, passwordHash: await hashes.hash(password) }, clock.now())
    const playbook = readPlaybook(database)
    if (shop) writePlaybook(database, { ...playbook, shop: { ...playbook.shop, ...shop } })
    openSession(event, database, person.id, clock.now())
    logForPerson(event, person, { event: 'owner-made' })
    return { person }
  },
)
