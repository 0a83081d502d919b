import { Readable } from 'node:stream'
import { readStored } from '../../../../../../../../cases/rows'
import { findOf } from '../../../../../../../../bench/finds'
import { throughLink } from '../../../../../../../../bench/link-failures'
import { lookOf } from '../../../../../../../../bench/looks'
import { shownBytes } from '../../../../../../../../bench/preview'
import { refused } from '../../../../../../../../failure'

/** An item's bytes for the preview beside the list: only kinds that a browser shows by itself, and nothing in them runs. */
export default defineRoute({ may: 'work' }, ({ event, param }) =>
  throughLink(async () => {
    const stored = readStored(useLantern().database, param('code'))
    if (stored.case.consent.lookThrough.answer === 'refused')
      throw refused('The client does not want their data looked at.')
    const look = lookOf(stored.id, Number(param('look')))
    const find = findOf(useLantern().database, look.id, Number(param('find')))
    const { type, bytes } = await shownBytes(look.link, find)
    setResponseHeaders(event, {
      'content-type': type,
      'content-security-policy': "default-src 'none'; sandbox",
      'x-content-type-options': 'nosniff',
      'cache-control': 'private, max-age=600',
      ...(type === 'application/octet-stream' ? { 'content-disposition': 'attachment' } : {}),
    })
    if (bytes instanceof Uint8Array) return Buffer.from(bytes)
    return sendStream(event, Readable.from(bytes))
  }),
)
