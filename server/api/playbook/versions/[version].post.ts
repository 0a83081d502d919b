import { WithReason } from '../../../../core/playbook/draft'
import { Playbook } from '../../../../core/playbook/playbook'
import { logForPerson } from '../../../people/log-for-person'
import { backToVersion } from '../../../playbook/versions'

/** Goes back to an earlier version. */
export default defineRoute(
  { answers: Playbook, may: 'playbook', body: WithReason },
  ({ event, person, param, body, writer }) => {
    const playbook = backToVersion(useLantern().database, Number(param('version')), { ...writer, reason: body.reason })
    logForPerson(event, person, { event: 'playbook-changed' })
    return playbook
  },
)
