import { HoldWrite, CaseAnswer } from '../../../../core/cases/facts/writing'
import { may } from '../../../../core/people/person'
import { answered } from '../../../cases/answered'
import { markHold } from '../../../cases/writing/holds'
import { Failure } from '../../../failure'

export default defineRoute({ answers: CaseAnswer, may: 'log', body: HoldWrite }, ({ body, param, person, writer }) => {
  if (body.mark === 'waived' && !may(person.role, 'work'))
    throw new Failure('not-allowed', 'Only a technician can waive a hold.')
  return answered(markHold(useLantern().database, param('code'), body, writer))
})
