import { readStored } from '../../../../../../../../cases/rows'
import { findOf } from '../../../../../../../../listings/finds'
import { throughLink } from '../../../../../../../../links/link-failures'
import { listingOf } from '../../../../../../../../listings/listings'
import { thumbOf } from '../../../../../../../../listings/preview'
import { notFound } from '../../../../../../../../failure'
import { requireConsent } from '../../../../../../../../cases/consent'

export default defineRoute({ answers: null, may: 'work', isBackground: true }, ({ event, param }) =>
  throughLink(async () => {
    const stored = readStored(useLantern().database, param('code'))
    requireConsent(stored)
    const listing = listingOf(stored.id, Number(param('listing')))
    const thumb = await thumbOf(listing.link, findOf(useLantern().database, listing.id, Number(param('find'))))
    if (!thumb) throw notFound('small picture of it')
    setResponseHeader(event, 'content-type', 'image/webp')
    return Buffer.from(thumb)
  }),
)
