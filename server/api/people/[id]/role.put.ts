import { NewRole, Person } from '../../../../core/people/person'
import { logForPerson } from '../../../people/log-for-person'
import { tellSessionsChanged } from '../../../people/sessions'
import { setRole } from '../../../people/store'

/** Another role for somebody, from their next request on. */
export default defineRoute({ answers: Person, may: 'people', body: NewRole }, ({ event, person, body, param }) => {
  const changed = setRole(useLantern().database, Number(param('id')), body.role)
  logForPerson(event, person, { event: 'role-changed', about: `${changed.name} to ${changed.role}` })
  tellSessionsChanged()
  return changed
})
