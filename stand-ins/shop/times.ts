import { TZDate } from '@date-fns/tz'
import { addDays, startOfDay } from 'date-fns'
import { HOUR_MS, isoOf, MINUTE_MS, type Moment } from '../../core/cases/shape/moment'

/** Times relative to the demo's now, so that something is always about to close. */
export interface DemoTimes {
  readonly now: number
  /** a time of day so many days from today, ms: at(-3, 18) is three days ago at six in the evening */
  at(days: number, hour: number, minute?: number): number
  /** a range between two such times */
  between(fromDays: number, toDays: number, fromHour?: number, toHour?: number): Moment
  /** hours from now */
  inHours(from: number, to?: number): Moment
}

export function demoTimes(now: number, zone: string): DemoTimes {
  const at = (days: number, hour: number, minute = 0) =>
    startOfDay(addDays(new TZDate(now, zone), days)).getTime() + hour * HOUR_MS + minute * MINUTE_MS
  return {
    now,
    at,
    between: (fromDays, toDays, fromHour = 0, toHour = 23 + 59 / 60) => ({
      from: isoOf(at(fromDays, fromHour)),
      to: isoOf(Math.round(at(toDays, toHour) / MINUTE_MS) * MINUTE_MS),
    }),
    inHours: (from, to = from) => ({ from: isoOf(now + from * HOUR_MS), to: isoOf(now + to * HOUR_MS) }),
  }
}
