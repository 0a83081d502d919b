import { clearLeftCopies } from '../../disk/shop-backup/pack'
import { backUpIfDue } from '../safekeeping/backups'
import { logFault } from '../log-fault'

const EVERY_MS = 10 * 60_000
/** Not in the first minutes, in which people sign in and plans are made. */
const FIRST_MS = 3 * 60_000

/** Makes the daily backup while the shop is open. */
export default defineNitroPlugin((nitro) => {
  const lantern = useLantern()
  // A copy in clear that a killed backup left behind.
  void clearLeftCopies(dataFolder()).catch((error) => logFault(error))
  const look = () => {
    if (lantern.database.$client.open) void lantern.ready.then(backUpIfDue).catch((error) => logFault(error))
  }
  const first = setTimeout(look, FIRST_MS)
  const timer = setInterval(look, EVERY_MS)
  first.unref()
  timer.unref()
  nitro.hooks.hook('close', () => {
    clearTimeout(first)
    clearInterval(timer)
  })
})
