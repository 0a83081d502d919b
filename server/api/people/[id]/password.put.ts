import { NewPassword } from '../../../../core/people/person'
import { notFound, refused } from '../../../failure'
import { setPasswordOf } from '../../../people/change-password'
import { logForPerson } from '../../../people/log-for-person'
import { findPersonById } from '../../../people/store'

/** A new password for somebody else; changing one's own needs the old one. */
export default defineRoute(
  { answers: null, may: 'people', body: NewPassword },
  async ({ event, person, body, param }) => {
    const lantern = useLantern()
    const about = findPersonById(lantern.database, Number(param('id')))
    if (!about) throw notFound('such person')
    if (about.id === person.id) throw refused('Change your own password on the page of your account.')
    await setPasswordOf(lantern, about, body.password)
    logForPerson(event, person, { event: 'password-set', about: about.name })
  },
)
