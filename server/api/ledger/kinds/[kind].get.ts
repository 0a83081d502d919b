import { KindAnswer } from '../../../../core/ledger/answers'
import { kindLearned } from '../../../ledger/ledger'

/** What the shop’s runs taught about one kind of route, run by run. */
export default defineRoute({ answers: KindAnswer, may: 'work' }, ({ playbook, param }) =>
  kindLearned(useLantern().database, playbook, param('kind')),
)
