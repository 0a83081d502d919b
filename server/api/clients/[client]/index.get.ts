import { ClientAnswer } from '../../../../core/exchange/client-answer'
import { clientOf } from '../../../exchange/client'

/** All about one client: their cases, what is held of each, and what erasing would leave. */
export default defineRoute({ answers: ClientAnswer, may: 'work' }, ({ param, person, playbook, now }) =>
  clientOf(param('client'), person.role, playbook, now),
)
