import { AfterwardsList } from '../../../core/afterwards/record'
import { afterwardsList } from '../../afterwards/answer'

/** What is wiped next, what asks first, and what was wiped. */
export default defineRoute({ answers: AfterwardsList, may: 'close' }, ({ person, now }) =>
  afterwardsList(person.role, now),
)
