import { AfterwardsAnswer } from '../../../../../core/afterwards/record'
import { afterwardsOf } from '../../../../afterwards/answer'

/** When a case is wiped, what is held of it, and what was wiped. */
export default defineRoute({ answers: AfterwardsAnswer, may: 'work' }, ({ param, playbook, now }) =>
  afterwardsOf(param('code'), playbook, now),
)
