import { writeCase } from '../../../../core/cases/facts/exchange'
import { readStored } from '../../../cases/rows'

/** The case as a file, to keep or to import elsewhere. */
export default defineRoute({ answers: null, may: 'see' }, ({ event, param }) => {
  const { case: stored } = readStored(useLantern().database, param('code'))
  setHeader(event, 'content-type', 'application/json; charset=utf-8')
  setHeader(event, 'content-disposition', `attachment; filename="${stored.code}.case.json"`)
  return writeCase(stored)
})
