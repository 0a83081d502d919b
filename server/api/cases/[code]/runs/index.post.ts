import { RunStart, CaseAnswer } from '../../../../../core/cases/facts/writing'
import { answered } from '../../../../cases/answered'
import { startRun } from '../../../../cases/writing/runs'

export default defineRoute({ answers: CaseAnswer, may: 'work', body: RunStart }, ({ body, param, playbook, writer }) =>
  answered(startRun(useLantern().database, param('code'), body.option, playbook, writer)),
)
