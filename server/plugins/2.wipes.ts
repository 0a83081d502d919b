import { wipeDue } from '../afterwards/due'
import { repeatWipes, wipesLeft } from '../afterwards/wipe'
import { logFault } from '../log-fault'

const EVERY_MS = 60_000

/** Finishes and repeats wipes before the shop opens, and wipes what is due while it is open. */
export default defineNitroPlugin((nitro) => {
  const lantern = useLantern()
  lantern.ready = lantern.ready.then(repeatWipes)
  if (process.env.LANTERN_SETTLE === '1')
    void lantern.ready.then(async () => {
      const left = wipesLeft()
      await nitro.hooks.callHook('close')
      process.exit(left === 0 ? 0 : 1)
    })
  let isBusy = false
  const timer = setInterval(() => {
    if (isBusy || !lantern.database.$client.open) return
    isBusy = true
    void lantern.ready
      .then(wipeDue)
      .catch((error) => logFault(error))
      .finally(() => (isBusy = false))
  }, EVERY_MS)
  timer.unref()
  nitro.hooks.hook('close', () => clearInterval(timer))
})
