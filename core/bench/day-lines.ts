import type { FindDay } from './filter'

/** A line of the days: one day, or days in a row on which nothing was found. */
export interface DayLine extends FindDay {
  /** the last day of such a row; null for a single day */
  readonly until: string | null
}

/** The days of a list as lines; consecutive empty days become one line, their expectations added up. */
export function dayLines(days: readonly FindDay[]): DayLine[] {
  const lines: DayLine[] = []
  for (const day of days) {
    const last = lines.at(-1)
    if (last && last.count === 0 && day.count === 0 && day.day !== null)
      lines[lines.length - 1] = {
        ...last,
        until: day.day,
        expected: (last.expected ?? 0) + (day.expected ?? 0),
      }
    else lines.push({ ...day, until: null })
  }
  return lines
}

/** Below this share of what is expected, a part of a day counts as missing. */
const PART_MISSING = 0.6

/** What a day lacks of what the client expects of it; null where nothing is expected, or enough was found. */
export function gapOf({ expected, count }: Pick<FindDay, 'expected' | 'count'>): 'all' | 'part' | null {
  if (expected === null || expected < 1) return null
  if (count === 0) return 'all'
  return count / expected < PART_MISSING ? 'part' : null
}
