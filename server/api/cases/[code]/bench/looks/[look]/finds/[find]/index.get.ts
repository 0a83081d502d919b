import { FindOpened } from '../../../../../../../../../core/bench/answers'
import { readStored } from '../../../../../../../../cases/rows'
import { findOf } from '../../../../../../../../listings/finds'
import { throughLink } from '../../../../../../../../links/link-failures'
import { lookOf } from '../../../../../../../../listings/looks'
import { noteAtBench } from '../../../../../../../../links/notes'
import { previewOf } from '../../../../../../../../listings/preview'
import { requireLookThrough } from '../../../../../../../../listings/look-through'

/** Opens a client's item to look at it; that somebody did stands in the history of the case. */
export default defineRoute({ answers: FindOpened, may: 'work' }, ({ param, writer }) =>
  throughLink(async () => {
    const stored = readStored(useLantern().database, param('code'))
    requireLookThrough(stored)
    const look = lookOf(stored.id, Number(param('look')))
    const find = findOf(useLantern().database, look.id, Number(param('find')))
    const preview = await previewOf(look.link, find)
    noteAtBench(param('code'), look.link, `previewed “${find.name}”`, writer)
    return { find, preview }
  }),
)
