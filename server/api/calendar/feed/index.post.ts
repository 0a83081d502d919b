import { FeedAnswer } from '../../../../core/calendar/feed'
import { openFeed } from '../../../calendar/feeds'
import { logForPerson } from '../../../people/log-for-person'

/** Opens one's own calendar at a new secret address, which is shown this once. */
export default defineRoute({ answers: FeedAnswer, may: 'see' }, ({ event, person, now }) => {
  logForPerson(event, person, { event: 'feed-opened' })
  return openFeed(useLantern().database, person.id, now)
})
