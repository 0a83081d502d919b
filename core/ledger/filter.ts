import { TZDate } from '@date-fns/tz'
import { addDays } from 'date-fns'
import { z } from 'zod'
import { DATA_TYPES } from '../cases/shape/data-types'
import { DEVICE_KINDS, PLATFORMS } from '../cases/shape/device'
import { LOSS_KINDS } from '../cases/shape/loss'
import { DAY_MS } from '../cases/shape/moment'
import { FAMILIES } from '../playbook/kinds/route-kind'
import { RUN_ENDS } from './ended-run'
import { HOUR_GROUPS } from './hours'

/** Periods that reach from now back, in days; null for all that was ever run. */
export const PERIODS = { '30': 30, '90': 90, '365': 365, all: null } as const
export const PERIOD_WORDS: Record<keyof typeof PERIODS, string> = {
  '30': 'the last 30 days',
  '90': 'the last 3 months',
  '365': 'the last 12 months',
  all: 'all years',
}

const day = z.iso.date('is not a day such as 2026-11-08')
const digits = z.string().regex(/^\d{1,15}$/)

/** Which runs the ledger counts; what is missing is not asked for. As it stands in an address. */
export const LedgerFilter = z.object({
  period: z.enum(['30', '90', '365', 'all', 'days']).default('365'),
  /** the first and the last day of a period of one’s own, in the shop’s zone */
  from: day.optional(),
  to: day.optional(),
  device: z.enum([...DEVICE_KINDS, 'unknown']).optional(),
  platform: z.enum([...PLATFORMS, 'unknown']).optional(),
  type: z.enum([...DATA_TYPES, 'unknown']).optional(),
  loss: z.enum([...LOSS_KINDS, 'unknown']).optional(),
  by: z.string().max(80).optional(),
  family: z.enum([...FAMILIES, 'other']).optional(),
  kind: z.string().max(60).optional(),
  end: z.enum(RUN_ENDS).optional(),
  /** the tenth of the predicted chance */
  tenth: z.coerce.number().int().min(0).max(9).optional(),
  /** runs that ended from this moment on, ms */
  since: digits.transform(Number).optional(),
  /** runs of which some minutes are in this group */
  hours: z.enum(HOUR_GROUPS).optional(),
  /** only runs that brought something damaged */
  damaged: z.literal('1').optional(),
  /** only first runs of cases */
  first: z.literal('1').optional(),
  /** only runs that were left out of the odds */
  out: z.literal('1').optional(),
})
export type LedgerFilter = z.infer<typeof LedgerFilter>

/** Which cases the ledger lists. */
export const CaseFilter = z.object({
  state: z.string().max(30).optional(),
  /** at least and less than so many days since they were logged */
  older: z.coerce.number().min(0).optional(),
  younger: z.coerce.number().min(0).optional(),
  waived: z.string().max(60).optional(),
  kept: z.string().max(60).optional(),
  deadline: z.enum(['kept', 'missed', 'ahead']).optional(),
  period: LedgerFilter.shape.period,
  from: day.optional(),
  to: day.optional(),
})
export type CaseFilter = z.infer<typeof CaseFilter>

/** The time that a filter covers, ms; a period of one’s own is whole days of the shop’s zone. */
export function timeOf(
  filter: Pick<LedgerFilter, 'period' | 'from' | 'to'>,
  now: number,
  zone: string,
): { readonly from: number; readonly to: number } {
  if (filter.period === 'days')
    return {
      from: filter.from === undefined ? 0 : dayStart(filter.from, zone).getTime(),
      to: filter.to === undefined ? now : addDays(dayStart(filter.to, zone), 1).getTime(),
    }
  const days = PERIODS[filter.period]
  return { from: days === null ? 0 : now - days * DAY_MS, to: now }
}

function dayStart(day: string, zone: string): TZDate {
  const [year, month, date] = day.split('-').map(Number)
  return new TZDate(year!, month! - 1, date!, zone)
}
