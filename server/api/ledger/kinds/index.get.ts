import { LearnedAnswer } from '../../../../core/ledger/answers'
import { allLearned } from '../../../ledger/ledger'

/** What the shop’s runs taught about every kind of route. */
export default defineRoute({ answers: LearnedAnswer, may: 'work' }, ({ playbook }) =>
  allLearned(useLantern().database, playbook),
)
