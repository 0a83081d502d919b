import { useEventListener, useIntervalFn } from '@vueuse/core'

const LOOK_EVERY_MS = 5000
/** Somebody who types for a long time without sending anything is still present; the server is notified this often. */
const SAY_EVERY_MS = 60_000

/** Locks the page when nobody has used it for as long as the shop allows, and tells the server while somebody does. */
export default defineNuxtPlugin(() => {
  const session = useSessionStore()
  for (const event of ['pointerdown', 'keydown', 'wheel', 'touchstart', 'input'] as const)
    useEventListener(window, event, () => session.lock === null && noteUsed(), { passive: true, capture: true })
  useIntervalFn(() => {
    if (!session.person || session.lock) return
    const since = sinceUsed()
    const words = `Locked: not used for ${session.idleMinutes} minutes.`
    if (since >= session.idleMinutes * 60_000) return session.lockAs('idle', words)
    if (since < SAY_EVERY_MS && Date.now() - lastAsked.at >= SAY_EVERY_MS) void session.load().catch(() => undefined)
  }, LOOK_EVERY_MS)
})
