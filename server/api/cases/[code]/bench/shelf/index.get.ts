import { ShelfList } from '../../../../../../core/bench/shelf'
import { readStored } from '../../../../../cases/rows'
import { requireConsent } from '../../../../../cases/consent'
import { shelfList } from '../../../../../shelf/shelf'

/** What is on the shelf of a case, or waits to be copied to it. */
export default defineRoute({ answers: ShelfList, may: 'work' }, ({ param }) => {
  const stored = readStored(useLantern().database, param('code'))
  requireConsent(stored)
  return shelfList(stored.id)
})
