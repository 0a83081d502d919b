import { ShelfPlace, ShelfPlaceWish } from '../../../core/bench/shelf-place'
import { logForPerson } from '../../people/log-for-person'
import { setShelfPlace } from '../../shelf/place'
import { shelfPlaceAnswer } from '../../shelf/room'

/** Names where shelves of new cases are, and how much all of them may take; shelves that were begun stay where they are. */
export default defineRoute(
  { answers: ShelfPlace, may: 'playbook', body: ShelfPlaceWish },
  async ({ event, person, body }) => {
    await setShelfPlace(useLantern().database, body)
    logForPerson(event, person, { event: 'shelf-place-named' })
    return shelfPlaceAnswer()
  },
)
