import { renewPlans } from '../cases/plans'
import { readPlaybook } from '../settings'
import { logFault } from '../log-fault'

/**
 * How often outdated plans are searched for, and how many are computed at a time, so that the server stays responsive.
 */
const EVERY_MS = 1000
const AT_A_TIME = 6
/** How long it waits after a failure, such as a full disk: what could not be stored would be computed again and again. */
const AFTER_FAILURE_MS = 5000

/** Keeps the plans of open cases current in the background. */
export default defineNitroPlugin((nitro) => {
  let pausedUntil = 0
  const timer = setInterval(() => {
    if (Date.now() < pausedUntil) return
    const { database, clock } = useLantern()
    if (!database.$client.open) return
    try {
      renewPlans(database, { playbook: readPlaybook(database), now: clock.now() }, AT_A_TIME)
    } catch (error) {
      // A plan that cannot be computed is tried again when somebody asks for it; the server continues.
      logFault(error)
      pausedUntil = Date.now() + AFTER_FAILURE_MS
    }
  }, EVERY_MS)
  timer.unref()
  nitro.hooks.hook('close', () => clearInterval(timer))
})
