import { readStored } from '../../../../../../../../cases/rows'
import { findOf } from '../../../../../../../../bench/finds'
import { throughLink } from '../../../../../../../../bench/link-failures'
import { lookOf } from '../../../../../../../../bench/looks'
import { thumbOf } from '../../../../../../../../bench/preview'
import { notFound, refused } from '../../../../../../../../failure'

export default defineRoute({ may: 'work' }, ({ event, param }) =>
  throughLink(async () => {
    const stored = readStored(useLantern().database, param('code'))
    if (stored.case.consent.lookThrough.answer === 'refused')
      throw refused('The client does not want their data looked at.')
    const look = lookOf(stored.id, Number(param('look')))
    const thumb = await thumbOf(look.link, findOf(useLantern().database, look.id, Number(param('find'))))
    if (!thumb) throw notFound('small picture of it')
    setResponseHeaders(event, { 'content-type': 'image/webp', 'cache-control': 'private, max-age=3600' })
    return Buffer.from(thumb)
  }),
)
