import { HandoverAnswer } from '../../../../../core/handover/answers'
import { handoverOf } from '../../../../handover/answer'

export default defineRoute({ answers: HandoverAnswer, may: 'see' }, ({ param, person, playbook, now }) =>
  handoverOf(param('code'), { role: person.role, playbook, now }),
)
