import { writeRecords } from '../../../../../../core/records/exports'
import { RECORD_FORMATS } from '../../../../../../core/records/formats'
import { readStored } from '../../../../../cases/rows'
import { recordsOnShelf } from '../../../../../shelf/shelf'
import { invalid, refused } from '../../../../../failure'
import { requireLookThrough } from '../../../../../listings/look-through'

/** All records of one kind that lie verified on the shelf, as one file in an open format. */
export default defineRoute({ may: 'work' }, ({ event, param }) => {
  const { as, kind } = getQuery(event)
  const format = RECORD_FORMATS.find((one) => one.id === as)
  if (!format || !format.kinds.some((one) => one === kind))
    throw invalid([{ path: 'as', message: 'is no format in which these are saved' }])
  const stored = readStored(useLantern().database, param('code'))
  requireLookThrough(stored)
  const records = recordsOnShelf(stored.id).filter((one) => one.kind === kind)
  if (records.length === 0) throw refused('None of these lies on the shelf.')
  setResponseHeaders(event, {
    'content-type': `${format.mime}; charset=utf-8`,
    'content-disposition': `attachment; filename="${stored.case.code}-${String(kind)}s.${format.extension}"`,
    'x-content-type-options': 'nosniff',
  })
  return writeRecords(format.id, records)
})
