import { Staff } from '../../../core/people/person'
import { listPeople } from '../../people/store'

export default defineRoute({ answers: Staff, may: 'people' }, () => listPeople(useLantern().database))
