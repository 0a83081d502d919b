import { z } from 'zod'
import { logForPerson } from '../../../people/log-for-person'
import { tellSessionsChanged } from '../../../people/sessions'
import { removePerson } from '../../../people/store'

/** `to`: who takes over what is open */
const Leaving = z.object({ to: z.coerce.number().int().optional() })

/** Removes somebody’s access; what is open goes to another. */
export default defineRoute({ answers: null, may: 'people' }, ({ event, person, param, writer }) => {
  const { to } = queryAs(event, Leaving)
  const removed = removePerson(useLantern().database, Number(param('id')), to ?? null, writer)
  logForPerson(event, person, { event: 'person-removed', about: removed.name })
  tellSessionsChanged()
})
