import { z } from 'zod'
import { text } from './fact'

/** An instant in UTC, as ISO 8601 with a final Z. */
export const instant = z.iso.datetime({ error: 'is not a moment in UTC such as 2026-11-08T14:30:00Z' })

/**
 * A moment as precisely as people know it: somewhere between two instants. `said` keeps the original words, so that a
 * reader can judge the reading.
 */
export const Moment = z
  .object({
    from: instant,
    to: instant,
    said: text(120).optional(),
  })
  .refine((moment) => Date.parse(moment.from) <= Date.parse(moment.to), {
    message: 'ends before it begins',
    path: ['to'],
  })
export type Moment = z.infer<typeof Moment>

export const MINUTE_MS = 60_000
export const HOUR_MS = 60 * MINUTE_MS
export const DAY_MS = 24 * HOUR_MS

/** A range of time in milliseconds since the epoch. */
export interface Span {
  readonly from: number
  readonly to: number
}

/** The moment as milliseconds since the epoch. */
export function spanOf(moment: Moment): Span {
  return { from: Date.parse(moment.from), to: Date.parse(moment.to) }
}

/** Milliseconds since the epoch as an ISO instant in UTC. */
export function isoOf(epochMs: number): string {
  return new Date(epochMs).toISOString()
}

const FIRST_MS = Date.parse('0000-01-01T00:00:00Z')
const LAST_MS = Date.parse('9999-12-31T23:59:59.999Z')

/** The same for times that others wrote; null where an instant with four digits of a year cannot say it. */
export function isoOrNull(epochMs: number | null): string | null {
  return epochMs !== null && epochMs >= FIRST_MS && epochMs <= LAST_MS ? isoOf(epochMs) : null
}

/** A moment between two instants given in milliseconds since the epoch. */
export function momentOf(span: Span, said?: string): Moment {
  const moment: Moment = { from: isoOf(span.from), to: isoOf(span.to) }
  return said === undefined ? moment : { ...moment, said }
}
