import { RunEnd, CaseAnswer } from '../../../../../core/cases/facts/writing'
import { answered } from '../../../../cases/answered'
import { requireCopied } from '../../../../shelf/shelf'
import { endRun } from '../../../../cases/writing/runs'

export default defineRoute({ answers: CaseAnswer, may: 'work', body: RunEnd }, ({ body, param, writer }) => {
  requireCopied(param('code'), param('run'))
  return answered(endRun(useLantern().database, param('code'), param('run'), body.report, writer))
})
