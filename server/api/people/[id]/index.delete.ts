import { removePerson } from '../../../people/store'

export default defineRoute({ may: 'people' }, ({ param }) => {
  removePerson(useLantern().database, Number(param('id')))
  return { done: true }
})
