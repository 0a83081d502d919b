import { NewCase, CaseAnswer } from '../../../core/cases/facts/writing'
import { logCase } from '../../cases/writing/log'
import { answered } from '../../cases/answered'

export default defineRoute({ answers: CaseAnswer, may: 'log', body: NewCase }, ({ body, playbook, writer }) =>
  answered(logCase(useLantern().database, body.changes, playbook, writer)),
)
