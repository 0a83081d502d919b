import { SelectAnswer } from '../../../../../../../core/bench/answers'
import { z } from 'zod'
import { FindFilter } from '../../../../../../../core/bench/filter'
import { listingOf } from '../../../../../../listings/listings'
import { askFinds } from '../../../../../../listings/ask-finds'
import { readStored } from '../../../../../../cases/rows'
import { requireConsent } from '../../../../../../cases/consent'

const SelectWrite = z.object({
  finds: z.array(z.int()).max(10_000).optional(),
  filter: FindFilter.optional(),
  /** only those of a day or a month; null for what has no date */
  day: z
    .string()
    .regex(/^\d{4}-\d\d(-\d\d)?$/)
    .nullable()
    .optional(),
  isSelected: z.boolean(),
})

export default defineRoute({ answers: SelectAnswer, may: 'work', body: SelectWrite }, async ({ body, param }) => {
  const stored = readStored(useLantern().database, param('code'))
  requireConsent(stored)
  const listing = listingOf(stored.id, Number(param('listing')))
  return { changed: await askFinds('select', listing, body, body.isSelected) }
})
