import { FeedAnswer } from '../../../../core/calendar/feed'
import { feedOf } from '../../../calendar/feeds'

/** Whether one's own calendar is open at a secret address. */
export default defineRoute({ answers: FeedAnswer, may: 'see' }, ({ person }) =>
  feedOf(useLantern().database, person.id),
)
