import { TZDate } from '@date-fns/tz'
import { format } from 'date-fns'

/** Moments in words, in the shop's zone. */
export function useClockWords() {
  const session = useSessionStore()
  const zoned = (iso: string | number) => new TZDate(typeof iso === 'number' ? iso : Date.parse(iso), session.shop.zone)
  return {
    timeOf: (iso: string) => format(zoned(iso), 'HH:mm'),
    dayOf: (iso: string | number) => format(zoned(iso), 'd MMM yyyy'),
    /** a day of the shop, YYYY-MM-DD */
    ofDay: (day: string) => format(new TZDate(Date.parse(`${day}T12:00:00Z`), 'UTC'), 'd MMM yyyy'),
    momentOf: (iso: string) => format(zoned(iso), 'EEE d MMM yyyy HH:mm'),
    /** "5 days left", "gone" */
    leftOf: (iso: string, now: number) => {
      const hours = (Date.parse(iso) - now) / 3_600_000
      if (hours <= 0) return 'gone'
      return hours < 48 ? `${Math.round(hours)} h left` : `${Math.floor(hours / 24)} days left`
    },
  }
}
