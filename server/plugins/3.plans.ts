import { renewPlans } from '../cases/plans'
import { readPlaybook } from '../settings'
import { logFault } from '../log-fault'

/**
 * How often outdated plans are searched for, and how many are computed at a time, so that the server stays responsive.
 */
const EVERY_MS = 1000
const AT_A_TIME = 6

/** Keeps the plans of open cases current in the background. */
export default defineNitroPlugin((nitro) => {
  const timer = setInterval(() => {
    const { database, clock } = useLantern()
    if (!database.$client.open) return
    try {
      renewPlans(database, { playbook: readPlaybook(database), now: clock.now() }, AT_A_TIME)
    } catch (error) {
      // A plan that cannot be computed is tried again when somebody asks for it; the server continues.
      logFault(error)
    }
  }, EVERY_MS)
  timer.unref()
  nitro.hooks.hook('close', () => clearInterval(timer))
})
