import { Amendment } from '../../core/playbook/amending'
import { amendPlaybook } from '../settings'

/** Changes one thing of the playbook; plans made with the older one are made anew. */
export default defineRoute({ may: 'playbook', body: Amendment }, ({ body }) =>
  amendPlaybook(useLantern().database, body),
)
