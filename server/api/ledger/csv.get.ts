import { runsAsCsv } from '../../ledger/ledger'

/** The runs behind a figure of the ledger, all of them, as CSV. */
export default defineRoute({ answers: null, may: 'work' }, ({ event, person, playbook, now }) => {
  setResponseHeaders(event, {
    'content-type': 'text/csv; charset=utf-8',
    'content-disposition': 'attachment; filename="ledger.csv"',
    'x-content-type-options': 'nosniff',
  })
  return runsAsCsv(useLantern().database, ledgerFilterOf(event, person), { role: person.role, playbook, now })
})
