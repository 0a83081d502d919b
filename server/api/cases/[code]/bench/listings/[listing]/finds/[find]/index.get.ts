import { FindOpened } from '../../../../../../../../../core/bench/answers'
import { readStored } from '../../../../../../../../cases/rows'
import { findOf } from '../../../../../../../../listings/finds'
import { throughLink } from '../../../../../../../../links/link-failures'
import { listingOf } from '../../../../../../../../listings/listings'
import { noteAtBench } from '../../../../../../../../links/notes'
import { previewOf } from '../../../../../../../../listings/preview'
import { requireConsent } from '../../../../../../../../cases/consent'

/** Opens a client's item for its preview, and notes in the history of the case who did. */
export default defineRoute({ answers: FindOpened, may: 'work' }, ({ param, writer }) =>
  throughLink(async () => {
    const stored = readStored(useLantern().database, param('code'))
    requireConsent(stored)
    const listing = listingOf(stored.id, Number(param('listing')))
    const find = findOf(useLantern().database, listing.id, Number(param('find')))
    const preview = await previewOf(listing.link, find)
    noteAtBench(param('code'), listing.link, `previewed “${find.name}”`, writer)
    return { find, preview }
  }),
)
