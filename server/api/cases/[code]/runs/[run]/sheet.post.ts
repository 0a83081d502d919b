import { CaseAnswer, RunMarkWrite } from '../../../../../../core/cases/facts/writing'
import { answered } from '../../../../../cases/answered'
import { markRun } from '../../../../../cases/writing/run-sheet'

/** Ticks a line of a run's sheet, switches its clock, or adds a note. */
export default defineRoute(
  { answers: CaseAnswer, may: 'work', body: RunMarkWrite },
  ({ body, param, playbook, writer }) =>
    answered(markRun(useLantern().database, param('code'), param('run'), body.mark, playbook, writer)),
)
