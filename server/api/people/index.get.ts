import { listPeople } from '../../people/store'

export default defineRoute({ may: 'people' }, () => listPeople(useLantern().database))
