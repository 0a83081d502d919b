import { dayIn, daysFrom } from '../bench/days'
import { known } from '../cases/shape/fact'
import type { WantedSet } from '../cases/shape/wanted'
import type { BackGroup } from './back'

/** The most days that are drawn; a longer span is drawn only where something came back. */
const MAX_DAYS = 92

/** A day of the strip: how much of what was expected of it came back, from 0 to 1. */
export interface LitDay {
  readonly day: string
  readonly count: number
  readonly lit: number
  readonly isMust: boolean
}

/**
 * What came back by day, for the strip that the client looks at: every day in which the wanted items were made, dark where
 * nothing came back. Without a number wanted, the day with the most is the measure. Empty where no day is known. Days are those of
 * the shop's zone.
 */
export function litDays(set: WantedSet, groups: readonly BackGroup[], zone: string): LitDay[] {
  const dayOf = (iso: string) => dayIn(zone, Date.parse(iso))
  const byDay = new Map(groups.flatMap(({ day, count }) => (day === null ? [] : [[day, count] as const])))
  const counts = [...byDay.values()]
  const span = known(set.made) ? daysFrom(dayOf(set.made.from), dayOf(set.made.to)) : []
  const inSpan = span.length <= MAX_DAYS ? span : []
  const days = [...new Set([...inSpan, ...byDay.keys()])].sort()
  if (days.length === 0) return []
  const usual = known(set.count) && span.length > 0 ? set.count / span.length : Math.max(1, ...counts)
  const must = set.mustHave
  const isMust = (day: string) =>
    must === 'all' || (typeof must === 'object' && day >= dayOf(must.from) && day <= dayOf(must.to))
  return days.map((day) => {
    const count = byDay.get(day) ?? 0
    return { day, count, lit: Math.min(1, count / usual), isMust: isMust(day) }
  })
}
