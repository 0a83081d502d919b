import { CaseHistory } from '../../../../core/cases/telling/history'
import { may } from '../../../../core/people/person'
import { historySince, readStored } from '../../../cases/rows'

/** What happened to a case. What was opened and copied at the bench names items, so it is for those who work there. */
export default defineRoute({ answers: CaseHistory, may: 'see' }, ({ param, person }) => {
  const { database } = useLantern()
  const entries = historySince(database, readStored(database, param('code')).id, 0)
  return may(person.role, 'work') ? entries : entries.filter(({ kind }) => kind !== 'bench')
})
