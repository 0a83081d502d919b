import { timeWords } from '~~/core/local/dates'

/** Moments in words, in the shop's zone. */
export function useClockWords() {
  const session = useSessionStore()
  const inZone = (at: string | number, pattern: string) => timeWords(at, session.shop.zone, pattern)
  return {
    timeOf: (iso: string) => inZone(iso, 'HH:mm'),
    dayOf: (iso: string | number) => inZone(iso, 'd MMM yyyy'),
    /** a day of the shop, YYYY-MM-DD */
    ofDay: (day: string) => timeWords(`${day}T12:00:00Z`, 'UTC', 'd MMM yyyy'),
    momentOf: (iso: string) => inZone(iso, 'EEE d MMM yyyy HH:mm'),
    /** "5 days left", "gone" */
    leftOf: (iso: string, now: number) => {
      const hours = (Date.parse(iso) - now) / 3_600_000
      if (hours <= 0) return 'gone'
      return hours < 48 ? `${Math.round(hours)} h left` : `${Math.floor(hours / 24)} days left`
    },
  }
}
