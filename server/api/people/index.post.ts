import { NewPerson } from '../../../core/people/person'
import { addPerson } from '../../people/store'

export default defineRoute({ may: 'people', body: NewPerson }, async ({ body, now }) => {
  const { password, ...rest } = body
  return addPerson(useLantern().database, { ...rest, passwordHash: await hashPassword(password) }, now)
})
