/** How many wrong passwords in a row a sign-in name may have before it has to wait, and for how long. */
const MOST_TRIES = 5
const WAIT_MS = 30_000
const MOST_NAMES = 10_000

/** Counts wrong passwords by sign-in name, so that guessing takes longer than a lifetime. */
export function tryCounter() {
  const wrong = new Map<string, { count: number; last: number }>()
  return {
    /** Seconds until the next try is looked at; 0 while it is. */
    secondsToWait(name: string, now: number): number {
      const entry = wrong.get(name)
      if (!entry || entry.count < MOST_TRIES) return 0
      return Math.max(0, Math.ceil((entry.last + WAIT_MS - now) / 1000))
    },
    wasWrong(name: string, now: number): void {
      if (wrong.size >= MOST_NAMES) wrong.clear()
      wrong.set(name, { count: (wrong.get(name)?.count ?? 0) + 1, last: now })
    },
    wasRight(name: string): void {
      wrong.delete(name)
    },
  }
}
