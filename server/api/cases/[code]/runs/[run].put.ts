import { RunEnd, CaseAnswer } from '../../../../../core/cases/facts/writing'
import { answered } from '../../../../cases/answered'
import { endRun } from '../../../../cases/writing/runs'

export default defineRoute({ answers: CaseAnswer, may: 'work', body: RunEnd }, ({ body, param, writer }) =>
  answered(endRun(useLantern().database, param('code'), param('run'), body.report, writer)),
)
