import { LedgerAnswer } from '../../../core/ledger/answers'
import { readLedger } from '../../ledger/ledger'

/** What works here. */
export default defineRoute({ answers: LedgerAnswer, may: 'work' }, ({ event, person, playbook, now }) =>
  readLedger(useLantern().database, ledgerFilterOf(event, person), { role: person.role, playbook, now }),
)
