/** Seconds from 1970 to 2001, from which some platforms count. */
const FROM_2001_SECONDS = 978_307_200
const LATEST_MS = Date.UTC(2100, 0, 1)

/**
 * The moment that a database's number or text stands for, or null. Units are inferred from magnitude: seconds since
 * 2001 (below 1.1e9), seconds, milliseconds, microseconds or nanoseconds since 1970; nanoseconds since 2001 are
 * taken where those since 1970 would lie before 1995.
 */
export function momentFrom(value: unknown): string | null {
  if (typeof value === 'string') {
    const at = /^\d{4}-\d\d-\d\d/.test(value) ? Date.parse(value.includes('T') ? value : value.replace(' ', 'T')) : NaN
    return isoWithin(at)
  }
  if (typeof value !== 'number' || !Number.isFinite(value) || value <= 0) return null
  if (value < 1e8) return null
  if (value < 8.5e8) return isoWithin((value + FROM_2001_SECONDS) * 1000)
  if (value < 1e11) return isoWithin(value * 1000)
  if (value < 1e14) return isoWithin(value)
  if (value < 1e17) return isoWithin(value / 1000)
  const nanoseconds = value / 1e6
  return isoWithin(nanoseconds < Date.UTC(1995, 0, 1) ? nanoseconds + FROM_2001_SECONDS * 1000 : nanoseconds)
}

const isoWithin = (ms: number) => (ms > 0 && ms < LATEST_MS ? new Date(Math.round(ms)).toISOString() : null)
