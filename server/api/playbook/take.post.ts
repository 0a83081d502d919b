import { WithReason } from '../../../core/playbook/draft'
import { Playbook } from '../../../core/playbook/playbook'
import { logForPerson } from '../../people/log-for-person'
import { takeDraft } from '../../playbook/draft'

/** Takes the draft over; the plans of open cases are made again. */
export default defineRoute(
  { answers: Playbook, may: 'playbook', body: WithReason },
  ({ event, person, body, writer }) => {
    const playbook = takeDraft(useLantern().database, { ...writer, reason: body.reason })
    logForPerson(event, person, { event: 'playbook-changed' })
    return playbook
  },
)
