import { OverrideWrite, CaseAnswer } from '../../../../core/cases/facts/writing'
import { answered } from '../../../cases/answered'
import { overrideOrder } from '../../../cases/writing/order'

export default defineRoute(
  { answers: CaseAnswer, may: 'work', body: OverrideWrite },
  ({ body, param, playbook, writer }) =>
    answered(overrideOrder(useLantern().database, param('code'), body, playbook, writer)),
)
