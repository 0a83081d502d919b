import { dayIn, daysFrom } from '../bench/days'
import { known } from '../cases/shape/fact'
import { DAY_MS, spanOf } from '../cases/shape/moment'
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
  const span = known(set.made) ? spanOf(set.made) : null
  // A span of centuries is counted, and its days are not made.
  const dayCount = span === null ? 0 : Math.max(1, Math.round((span.to - span.from) / DAY_MS))
  const inSpan = span !== null && dayCount <= MAX_DAYS ? daysFrom(dayIn(zone, span.from), dayIn(zone, span.to)) : []
  const days = [...new Set([...inSpan, ...byDay.keys()])].sort()
  if (days.length === 0) return []
  const usual = known(set.count) && dayCount > 0 ? set.count / dayCount : Math.max(1, ...counts)
  const must = set.mustHave
  const isMust = (day: string) =>
    must === 'all' || (typeof must === 'object' && day >= dayOf(must.from) && day <= dayOf(must.to))
  return days.map((day) => {
    const count = byDay.get(day) ?? 0
    return { day, count, lit: Math.min(1, count / usual), isMust: isMust(day) }
  })
}
