import { readStored } from '../../../../../../../../cases/rows'
import { findOf } from '../../../../../../../../listings/finds'
import { throughLink } from '../../../../../../../../links/link-failures'
import { lookOf } from '../../../../../../../../listings/looks'
import { thumbOf } from '../../../../../../../../listings/preview'
import { notFound } from '../../../../../../../../failure'
import { requireLookThrough } from '../../../../../../../../listings/look-through'

export default defineRoute({ answers: null, may: 'work', isBackground: true }, ({ event, param }) =>
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
