import { RunsAnswer } from '../../../core/ledger/answers'
import { runsBehind } from '../../ledger/ledger'

/** The runs behind a figure of the ledger. */
export default defineRoute({ answers: RunsAnswer, may: 'work' }, ({ event, person, playbook, now }) =>
  runsBehind(useLantern().database, ledgerFilterOf(event, person), { role: person.role, playbook, now }),
)
