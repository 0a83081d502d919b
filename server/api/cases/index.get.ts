import { CounterAnswer } from '../../../core/cases/shape/summary'
import { findCases, openCases } from '../../cases/summaries'

export default defineRoute({ answers: CounterAnswer, may: 'see' }, ({ event, playbook, now, person }) => {
  const { database } = useLantern()
  const sought = String(getQuery(event).find ?? '').slice(0, 120)
  return sought.trim() === ''
    ? openCases(database, { playbook, now }, person.role)
    : findCases(database, sought, { playbook, now }, person.role)
})
