import { SearchAnswer } from '../../core/search/answers'
import { search } from '../cases/search'

export default defineRoute({ answers: SearchAnswer, may: 'see' }, ({ event, playbook, now, person }) => {
  const { zone, currency } = playbook.shop
  const typed = String(getQuery(event).q ?? '').slice(0, 120)
  return search(useLantern().database, typed, person.role, { zone, currency, now })
})
