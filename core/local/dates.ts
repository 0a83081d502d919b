import QuickLRU from 'quick-lru'
import { tz } from '@date-fns/tz'
import { format } from 'date-fns'
import { spoken } from './language'

/** How many formatted times are kept: a plan repeats the same few, and formatting is slow. */
const kept = new QuickLRU<string, string>({ maxSize: 2000 })

/**
 * A moment in a zone, in the language that is spoken. `pattern` is one of date-fns (Unicode TR 35) as Britain writes it:
 * its "d MMM yyyy" and "d MMM" become what that language writes ("Nov 24, 2026").
 */
export function timeWords(time: number | string, zone: string, pattern: string): string {
  const { tag, locale, day, date } = spoken()
  const key = `${time} ${zone} ${tag} ${pattern}`
  const before = kept.get(key)
  if (before !== undefined) return before
  const own = pattern.includes('d MMM yyyy') ? pattern.replace('d MMM yyyy', date) : pattern.replace('d MMM', day)
  const words = format(new Date(time), own, { in: tz(zone), locale })
  kept.set(key, words)
  return words
}
