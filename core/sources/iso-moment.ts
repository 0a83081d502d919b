import QuickLRU from 'quick-lru'
const DAY_MS = 24 * 60 * 60 * 1000
const two = Array.from({ length: 100 }, (_, value) => String(value).padStart(2, '0'))
const three = Array.from({ length: 1000 }, (_, value) => String(value).padStart(3, '0'))
const days = new QuickLRU<number, string>({ maxSize: 10_000 })

/**
 * An instant as a date and time in UTC (ISO 8601), from milliseconds since 1970. Media have hundreds of thousands of
 * records, most of them from the same few days, so the text of a day is made once.
 */
export function isoMoment(ms: number): string {
  const day = Math.floor(ms / DAY_MS)
  let date = days.get(day)
  if (date === undefined) {
    date = new Date(day * DAY_MS).toISOString().slice(0, -13)
    days.set(day, date)
  }
  const rest = Math.floor(ms - day * DAY_MS)
  const seconds = Math.floor(rest / 1000)
  const minutes = Math.floor(seconds / 60)
  return `${date}${two[Math.floor(minutes / 60)]}:${two[minutes % 60]}:${two[seconds % 60]}.${three[rest % 1000]}Z`
}
