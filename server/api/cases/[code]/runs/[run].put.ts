import { RunEnd } from '../../../../../core/cases/facts/writing'
import { answered } from '../../../../cases/answered'
import { endRun } from '../../../../cases/write'

export default defineRoute({ may: 'work', body: RunEnd }, ({ body, param, writer }) =>
  answered(endRun(useLantern().database, param('code'), param('run'), body.report, writer)),
)
