import { logForPerson } from '../../../people/log-for-person'
import { tellSessionsChanged } from '../../../people/sessions'
import { removePerson } from '../../../people/store'

export default defineRoute({ answers: null, may: 'people' }, ({ event, person, param }) => {
  const removed = removePerson(useLantern().database, Number(param('id')))
  logForPerson(event, person, { event: 'person-removed', about: removed.name })
  tellSessionsChanged()
})
