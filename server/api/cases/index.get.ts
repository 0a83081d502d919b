import { CounterAnswer } from '../../../core/cases/shape/summary'
import { openCases } from '../../cases/summaries'

export default defineRoute({ answers: CounterAnswer, may: 'see' }, ({ playbook, now, person }) =>
  openCases(useLantern().database, { playbook, now }, person.role),
)
