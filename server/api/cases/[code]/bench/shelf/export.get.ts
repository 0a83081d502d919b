import { formatsFor } from '../../../../../../core/records/exports/registry'
import { RECORD_KINDS } from '../../../../../../core/records/record'
import { readStored } from '../../../../../cases/rows'
import { recordsOnShelf } from '../../../../../shelf/shelf'
import { invalid, refused } from '../../../../../failure'
import { requireConsent } from '../../../../../cases/consent'

/** All verified records of one kind on the shelf, as one file in an open format. */
export default defineRoute({ answers: null, may: 'work' }, ({ event, param }) => {
  const { as, kind } = getQuery(event)
  const member = RECORD_KINDS.find((one) => one.kind === kind)
  const format = member && formatsFor(member.kind).find((one) => one.id === as)
  if (!format) throw invalid([{ path: 'as', message: 'is not an export format for these records' }])
  const stored = readStored(useLantern().database, param('code'))
  requireConsent(stored)
  const records = recordsOnShelf(stored.id).filter((one) => one.kind === member.kind)
  if (records.length === 0) throw refused('There are none of these on the shelf.')
  setResponseHeaders(event, {
    'content-type': `${format.mime}; charset=utf-8`,
    'content-disposition': `attachment; filename="${stored.case.code}-${member.kind}s.${format.extension}"`,
    'x-content-type-options': 'nosniff',
  })
  return format.write(records)
})
