import { CaseAnswer } from '../../../../../core/cases/facts/writing'
import { HandoverAsk } from '../../../../../core/handover/answers'
import { DEED_FOR } from '../../../../../core/handover/writes'
import { may } from '../../../../../core/people/person'
import { answered } from '../../../../cases/answered'
import { Failure } from '../../../../failure'
import { writeHandover } from '../../../../handover/write'
import { standStill } from '../../../../handover/stand-still'

/** One thing between shop and client; some of them only some people may do. */
export default defineRoute(
  { answers: CaseAnswer, may: 'log', body: HandoverAsk },
  async ({ body: { write }, param, person, playbook, writer }) => {
    if (!may(person.role, DEED_FOR[write.do]))
      throw new Failure(
        'not-allowed',
        write.do === 'lift' ? 'Only an owner lifts a stop.' : 'Your role cannot do this.',
      )
    const code = param('code')
    const done = writeHandover(useLantern().database, code, write, playbook, writer)
    if (write.do === 'freeze') await standStill(code, writer)
    return answered(done)
  },
)
