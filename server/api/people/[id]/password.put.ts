import { NewPassword } from '../../../../core/people/person'
import { setPassword } from '../../../people/store'

export default defineRoute({ may: 'people', body: NewPassword }, async ({ body, param }) => {
  setPassword(useLantern().database, Number(param('id')), await hashPassword(body.password))
  return { done: true }
})
