import { CasesAnswer } from '../../../core/ledger/answers'
import { CaseFilter } from '../../../core/ledger/filter'
import { casesBehind } from '../../ledger/select'

const MAX_LINES = 500

/** The cases behind a figure of the ledger. */
export default defineRoute({ answers: CasesAnswer, may: 'work' }, ({ event, person, playbook, now }) => {
  const filter = queryAs(event, CaseFilter)
  const found = casesBehind(useLantern().database, filter, { role: person.role, playbook, now })
  return {
    total: found.length,
    cases: found.slice(0, MAX_LINES).map(({ code, done, line: { state, logged, deadline, back, holds } }) => ({
      code,
      state,
      logged,
      deadline,
      done,
      back,
      waived: holds.flatMap(({ hold, mark }) => (mark === 'waived' ? [hold] : [])),
    })),
  }
})
