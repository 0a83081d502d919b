import { wipeDue } from '../afterwards/due'
import { repeatWipes } from '../afterwards/wipe'
import { logFault } from '../log-fault'

const EVERY_MS = 60_000

/** Finishes and repeats wipes before the shop opens, and wipes what is due while it is open. */
export default defineNitroPlugin((nitro) => {
  const lantern = useLantern()
  lantern.ready = lantern.ready.then(repeatWipes)
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
