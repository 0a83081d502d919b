import { MoveWrite, CaseAnswer } from '../../../../core/cases/facts/writing'
import { answered } from '../../../cases/answered'
import { moveCase } from '../../../cases/writing/state'

export default defineRoute({ answers: CaseAnswer, may: 'close', body: MoveWrite }, ({ body, param, writer }) =>
  answered(moveCase(useLantern().database, param('code'), body, writer)),
)
