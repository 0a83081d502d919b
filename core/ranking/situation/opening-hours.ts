import { TZDate } from '@date-fns/tz'
import { addDays, setHours, setMinutes, startOfDay } from 'date-fns'
import { MINUTE_MS, type Span } from '../../cases/shape/moment'
import type { Shop } from '../../playbook/shop'
import { keptBy } from './kept-by'

/** Lays minutes of work onto the hours in which the shop is open. */
export interface WorkClock {
  /** the instant (ms) at which so many minutes of work from the start are done; the start itself for none */
  after(minutes: number): number
}

/** A shop that never opens must not be waited for without end. */
const HORIZON_DAYS = 400

/**
 * A clock of the shop's working time from `start` on. Somebody who asks for a plan outside opening hours is there, so
 * work can begin at `start`, but it continues in opening hours only.
 */
export function workClock(start: number, shop: Pick<Shop, 'hours' | 'zone'>): WorkClock {
  const days = openSpans(start, shop)
  const spans: Span[] = []
  const nth = (index: number): Span | null => {
    while (spans.length <= index) {
      const next = days.next()
      if (next.done) return null
      spans.push(next.value)
    }
    return spans[index]!
  }
  return {
    after: keptBy((minutes: number) => {
      if (minutes <= 0) return start
      let rest = minutes * MINUTE_MS
      for (let index = 0; ; index++) {
        const span = nth(index)
        if (!span) return (spans.at(-1)?.to ?? start) + rest
        if (rest <= span.to - span.from) return span.from + rest
        rest -= span.to - span.from
      }
    }),
  }
}

/** When the shop opens next after `time`, or `time` itself while it is open. */
export function nextOpening(time: number, shop: Pick<Shop, 'hours' | 'zone'>): number {
  const first = openSpans(time, shop).next()
  return first.done ? time : first.value.from
}

function* openSpans(start: number, { hours, zone }: Pick<Shop, 'hours' | 'zone'>): Generator<Span, void> {
  let day: TZDate = startOfDay(new TZDate(start, zone))
  for (let index = 0; index < HORIZON_DAYS; index++) {
    const open = hours[(day.getDay() + 6) % 7]
    if (open) {
      const from = Math.max(start, clockOn(day, open.from))
      const to = clockOn(day, open.to)
      if (to > from) yield { from, to }
    }
    day = addDays(day, 1)
  }
}

function clockOn(day: TZDate, clock: string): number {
  const [hour, minute] = clock.split(':').map(Number) as [number, number]
  return setHours(setMinutes(day, minute), hour).getTime()
}
