import { MoveWrite } from '../../../../core/cases/facts/writing'
import { answered } from '../../../cases/answered'
import { moveCase } from '../../../cases/write'

export default defineRoute({ may: 'close', body: MoveWrite }, ({ body, param, writer }) =>
  answered(moveCase(useLantern().database, param('code'), body, writer)),
)
