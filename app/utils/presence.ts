const USED_KEY = 'lantern:used'
/** How often other tabs are notified at most. */
const SHARE_EVERY_MS = 5000
let shared = 0
let used = Date.now()

/** Somebody touched a key, the pointer or the screen. */
export function noteUsed(): void {
  used = Date.now()
  if (used - shared < SHARE_EVERY_MS) return
  shared = used
  try {
    localStorage.setItem(USED_KEY, String(used))
  } catch {
    // A full storage stops nobody from working; this tab still knows for itself.
  }
}

/** ms since somebody last did something, in whichever tab of this browser. */
export function sinceUsed(): number {
  const elsewhere = Number(localStorage.getItem(USED_KEY) ?? 0)
  return Math.max(0, Date.now() - Math.max(used, elsewhere))
}
