import { CaseHistory } from '../../../../core/cases/telling/history'
import { may } from '../../../../core/people/person'
import { historySince, readStored } from '../../../cases/rows'

/** The history of a case. Entries from the bench name items, so only those who work there get them. */
export default defineRoute({ answers: CaseHistory, may: 'see' }, ({ param, person }) => {
  const { database } = useLantern()
  const entries = historySince(database, readStored(database, param('code')).id, 0)
  return may(person.role, 'work') ? entries : entries.filter(({ kind }) => kind !== 'bench')
})
