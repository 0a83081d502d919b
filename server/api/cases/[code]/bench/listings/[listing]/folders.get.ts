import { FolderList } from '../../../../../../../core/bench/answers'
import { FindFilter } from '../../../../../../../core/bench/filter'
import { faultsOf } from '../../../../../../../core/cases/shape/faults'
import { askFinds } from '../../../../../../listings/ask-finds'
import { listingOf } from '../../../../../../listings/listings'
import { readStored } from '../../../../../../cases/rows'
import { invalid } from '../../../../../../failure'
import { requireConsent } from '../../../../../../cases/consent'

/** The subfolders of the place that the filter names, with the matching items of each. */
export default defineRoute({ answers: FolderList, may: 'work' }, async ({ event, param }) => {
  const read = FindFilter.safeParse(getQuery(event))
  if (!read.success) throw invalid(faultsOf(read.error))
  const stored = readStored(useLantern().database, param('code'))
  requireConsent(stored)
  return { folders: await askFinds('folders', listingOf(stored.id, Number(param('listing'))), read.data) }
})
