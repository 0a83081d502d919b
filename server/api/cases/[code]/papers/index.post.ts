import { may } from '../../../../../core/people/person'
import { PaperAsk, PaperMade } from '../../../../../core/handover/paper'
import { Failure } from '../../../../failure'
import { makePaper } from '../../../../handover/papers'

/** The options sheet or the report of a case as it is now. */
export default defineRoute(
  { answers: PaperMade, may: 'log', body: PaperAsk },
  ({ body: { kind }, param, person, playbook, writer }) => {
    if (kind === 'annex' && !may(person.role, 'work'))
      throw new Failure('not-allowed', 'The annex names what was found: a technician makes it.')
    return { id: makePaper(param('code'), kind, playbook, writer) }
  },
)
