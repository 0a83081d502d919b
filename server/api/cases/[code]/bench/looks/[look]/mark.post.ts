import { z } from 'zod'
import { FindFilter } from '../../../../../../../core/finding/filter'
import { countsOf, mark } from '../../../../../../bench/finds'
import { lookOf } from '../../../../../../bench/looks'
import { readStored } from '../../../../../../cases/rows'

const MarkWrite = z.object({
  finds: z.array(z.int()).max(10_000).optional(),
  filter: FindFilter.optional(),
  /** only those of a day or a month; null for what has no date */
  day: z
    .string()
    .regex(/^\d{4}-\d\d(-\d\d)?$/)
    .nullable()
    .optional(),
  isMarked: z.boolean(),
})

export default defineRoute({ may: 'work', body: MarkWrite }, ({ body, param }) => {
  const stored = readStored(useLantern().database, param('code'))
  const look = lookOf(stored.id, Number(param('look')))
  const changed = mark(look.id, body, body.isMarked)
  return { changed, counts: countsOf(look, body.filter ?? {}, stored.case) }
})
