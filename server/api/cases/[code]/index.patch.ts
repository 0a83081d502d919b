import { FactsWrite, CaseAnswer } from '../../../../core/cases/facts/writing'
import { changeFacts } from '../../../cases/writing/facts'
import { answered } from '../../../cases/answered'

export default defineRoute({ answers: CaseAnswer, may: 'log', body: FactsWrite }, ({ body, param, writer }) =>
  answered(changeFacts(useLantern().database, param('code'), body.version, body.changes, writer)),
)
