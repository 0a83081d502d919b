import { FactsWrite } from '../../../../core/cases/facts/writing'
import { changeFacts } from '../../../cases/write'
import { answered } from '../../../cases/answered'

export default defineRoute({ may: 'log', body: FactsWrite }, ({ body, param, writer }) =>
  answered(changeFacts(useLantern().database, param('code'), body.version, body.changes, writer)),
)
