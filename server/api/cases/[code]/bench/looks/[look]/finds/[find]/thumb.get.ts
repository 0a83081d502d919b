import { readStored } from '../../../../../../../../cases/rows'
import { findOf } from '../../../../../../../../bench/finds'
import { throughLink } from '../../../../../../../../bench/link-failures'
import { lookOf } from '../../../../../../../../bench/looks'
import { thumbOf } from '../../../../../../../../bench/preview'
import { notFound } from '../../../../../../../../failure'
import { requireLookThrough } from '../../../../../../../../bench/look-through'

export default defineRoute({ may: 'work', isBackground: true }, ({ event, param }) =>
  throughLink(async () => {
    const stored = readStored(useLantern().database, param('code'))
    requireLookThrough(stored)
    const look = lookOf(stored.id, Number(param('look')))
    const thumb = await thumbOf(look.link, findOf(useLantern().database, look.id, Number(param('find'))))
    if (!thumb) throw notFound('small picture of it')
    setResponseHeader(event, 'content-type', 'image/webp')
    return Buffer.from(thumb)
  }),
)
