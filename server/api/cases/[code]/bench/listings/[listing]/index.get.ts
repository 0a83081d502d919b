import { z } from 'zod'
import { FindFilter, FindPage } from '../../../../../../../core/bench/filter'
import { faultsOf } from '../../../../../../../core/cases/shape/faults'
import { listingOf } from '../../../../../../listings/listings'
import { askFinds } from '../../../../../../listings/ask-finds'
import { readStored } from '../../../../../../cases/rows'
import { invalid } from '../../../../../../failure'
import { requireConsent } from '../../../../../../cases/consent'

const DAY = /^\d{4}-\d\d(-\d\d)?$/

/** Which items are wanted: a page of them, or the first of some days; and whether everything is counted too. */
const Asked = FindFilter.extend({
  offset: z.coerce.number().int().min(0).default(0),
  limit: z.coerce.number().int().min(0).max(500).default(100),
  /** days or months, separated by commas; "none" for what has no date */
  days: z
    .string()
    .max(2000)
    .transform((days) => days.split(',').map((day) => (day === 'none' ? null : day)))
    .refine((days) => days.every((day) => day === null || DAY.test(day)), 'names no days')
    .optional(),
  each: z.coerce.number().int().min(1).max(100).default(18),
  counts: z.coerce.boolean().default(false),
})

export default defineRoute({ answers: FindPage, may: 'work' }, async ({ event, param }) => {
  const read = Asked.safeParse(getQuery(event))
  if (!read.success) throw invalid(faultsOf(read.error))
  const { offset, limit, days, each, counts, ...filter } = read.data
  const stored = readStored(useLantern().database, param('code'))
  requireConsent(stored)
  const listing = listingOf(stored.id, Number(param('listing')))
  return {
    finds: days
      ? await askFinds('days', listing, filter, days, each)
      : limit === 0
        ? []
        : await askFinds('page', listing, filter, offset, limit),
    counts: counts ? await askFinds('counts', listing, filter, stored.case) : null,
  }
})
