import { notFound } from '../../failure'
import { listOf } from '../../exchange/lists'

/** All cases, or all their runs, as CSV. */
export default defineRoute({ answers: null, may: 'people' }, ({ event, param, person, playbook, now }) => {
  const what = param('list')
  if (what !== 'cases' && what !== 'runs') throw notFound('such list')
  setResponseHeaders(event, {
    'content-type': 'text/csv; charset=utf-8',
    'content-disposition': `attachment; filename="${what}.csv"`,
    'x-content-type-options': 'nosniff',
  })
  return listOf(what, person.role, playbook, now)
})
