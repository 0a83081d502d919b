import { ListingBegun } from '../../../../../../../core/bench/answers'
import { ListingStart } from '../../../../../../../core/bench/bench'
import { throughLink } from '../../../../../../links/link-failures'
import { startListing } from '../../../../../../listings/listings'

export default defineRoute({ answers: ListingBegun, may: 'work', body: ListingStart }, ({ body, param, writer }) =>
  throughLink(async () => ({ listing: await startListing(param('code'), param('link'), body.keep, writer) })),
)
