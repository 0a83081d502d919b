import { Readable } from 'node:stream'
import { readStored } from '../../../../../../../../cases/rows'
import { findOf } from '../../../../../../../../listings/finds'
import { throughLink } from '../../../../../../../../links/link-failures'
import { listingOf } from '../../../../../../../../listings/listings'
import { isPlayed, shownBytes } from '../../../../../../../../listings/preview'
import { byteRangeOf, firstOf } from '../../../../../../../../http/byte-range'
import { requireConsent } from '../../../../../../../../cases/consent'

/** The bytes of an item for its preview: only types that a browser displays by itself, and nothing in them runs. */
export default defineRoute({ answers: null, may: 'work', isBackground: true }, ({ event, param }) =>
  throughLink(async () => {
    const stored = readStored(useLantern().database, param('code'))
    requireConsent(stored)
    const listing = listingOf(stored.id, Number(param('listing')))
    const find = findOf(useLantern().database, listing.id, Number(param('find')))
    const isParted = isPlayed(find)
    const range = isParted ? byteRangeOf(getRequestHeader(event, 'range'), find.bytes) : null
    if (range === 'beyond') {
      setResponseHeader(event, 'content-range', `bytes */${find.bytes}`)
      setResponseStatus(event, 416)
      return null
    }
    const { type, bytes } = await shownBytes(listing.link, find, range?.from)
    setResponseHeaders(event, {
      'content-type': type,
      'content-security-policy': "default-src 'none'; sandbox",
      'x-content-type-options': 'nosniff',
      ...(type === 'application/octet-stream' ? { 'content-disposition': 'attachment' } : {}),
    })
    if (isParted) setResponseHeader(event, 'accept-ranges', 'bytes')
    if (range && !(bytes instanceof Uint8Array)) {
      const { from, to } = range
      setResponseHeaders(event, {
        'content-range': `bytes ${from}-${to}/${find.bytes}`,
        'content-length': to - from + 1,
      })
      setResponseStatus(event, 206)
      return sendStream(event, Readable.from(firstOf(bytes, to - from + 1)))
    }
    if (bytes instanceof Uint8Array) return Buffer.from(bytes)
    return sendStream(event, Readable.from(bytes))
  }),
)
