import { Readable } from 'node:stream'
import { readStored } from '../../../../../../../../cases/rows'
import { findOf } from '../../../../../../../../listings/finds'
import { throughLink } from '../../../../../../../../links/link-failures'
import { listingOf } from '../../../../../../../../listings/listings'
import { shownBytes } from '../../../../../../../../listings/preview'
import { requireConsent } from '../../../../../../../../cases/consent'

/** The bytes of an item for its preview: only types that a browser displays by itself, and nothing in them runs. */
export default defineRoute({ answers: null, may: 'work', isBackground: true }, ({ event, param }) =>
  throughLink(async () => {
    const stored = readStored(useLantern().database, param('code'))
    requireConsent(stored)
    const listing = listingOf(stored.id, Number(param('listing')))
    const find = findOf(useLantern().database, listing.id, Number(param('find')))
    const { type, bytes } = await shownBytes(listing.link, find)
    setResponseHeaders(event, {
      'content-type': type,
      'content-security-policy': "default-src 'none'; sandbox",
      'x-content-type-options': 'nosniff',
      ...(type === 'application/octet-stream' ? { 'content-disposition': 'attachment' } : {}),
    })
    if (bytes instanceof Uint8Array) return Buffer.from(bytes)
    return sendStream(event, Readable.from(bytes))
  }),
)
