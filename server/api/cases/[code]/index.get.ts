import { CaseIfNewer } from '../../../../core/cases/facts/writing'
import { readStored } from '../../../cases/rows'
import { answered } from '../../../cases/answered'

/** The case; where the reader names the version that they have, only whether there is a newer one. */
export default defineRoute({ answers: CaseIfNewer, may: 'see' }, ({ event, param }) => {
  const stored = readStored(useLantern().database, param('code'))
  const seen = Number(getQuery(event).seen ?? 0)
  return seen === stored.version ? { version: stored.version } : answered({ stored, clashes: [] })
})
