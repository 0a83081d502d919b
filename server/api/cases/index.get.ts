import { CounterAnswer } from '../../../core/cases/shape/summary'
import { may } from '../../../core/people/person'
import { askingCases } from '../../afterwards/due'
import { openCases } from '../../cases/summaries'

/** The open cases by what waiting costs, and how many that have ended ask before they are wiped. */
export default defineRoute({ answers: CounterAnswer, may: 'see' }, ({ playbook, now, person }) => {
  const { database } = useLantern()
  return {
    ...openCases(database, { playbook, now }, person.role),
    asks: may(person.role, 'close') ? askingCases(database, now) : 0,
  }
})
