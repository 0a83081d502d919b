import { FeedAnswer } from '../../../../core/calendar/feed'
import { closeFeed } from '../../../calendar/feeds'
import { logForPerson } from '../../../people/log-for-person'

/** Closes the secret address of one's own calendar. */
export default defineRoute({ answers: FeedAnswer, may: 'see' }, ({ event, person }) => {
  logForPerson(event, person, { event: 'feed-closed' })
  return closeFeed(useLantern().database, person.id)
})
