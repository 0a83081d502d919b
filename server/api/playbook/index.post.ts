import { Playbook } from '../../../core/playbook/playbook'
import { speak } from '../../../core/local/language'
import { Amendment } from '../../../core/playbook/amending'
import { logForPerson } from '../../people/log-for-person'
import { amendPlaybook } from '../../playbook/versions'

/** Changes one thing of the playbook; plans made with the older one are computed again. */
export default defineRoute(
  { answers: Playbook, may: 'playbook', body: Amendment },
  async ({ event, person, body, writer }) => {
    const playbook = amendPlaybook(useLantern().database, body, writer)
    logForPerson(event, person, { event: 'playbook-changed' })
    await speak(playbook.shop.language)
    return playbook
  },
)
