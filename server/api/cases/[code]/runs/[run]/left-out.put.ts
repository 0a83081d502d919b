import { CaseAnswer, RunLeftOut } from '../../../../../../core/cases/facts/writing'
import { answered } from '../../../../../cases/answered'
import { leaveOutRun } from '../../../../../cases/writing/runs'

/** Leaves an ended run out of the odds, with a reason, or counts it again. */
export default defineRoute({ answers: CaseAnswer, may: 'close', body: RunLeftOut }, ({ body, param, writer }) =>
  answered(leaveOutRun(useLantern().database, param('code'), param('run'), body.reason, writer)),
)
