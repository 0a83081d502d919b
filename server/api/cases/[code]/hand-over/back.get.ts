import { BackAnswer } from '../../../../../core/handover/back'
import { backOf } from '../../../../handover/back'

/** What came back, by wanted set and day, for going through it with the client. */
export default defineRoute({ answers: BackAnswer, may: 'work' }, ({ param, playbook }) =>
  backOf(param('code'), playbook.shop),
)
