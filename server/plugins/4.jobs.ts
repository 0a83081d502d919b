import { stopFetchesOfBefore } from '../steps/fetches'
import { breakOffListings } from '../listings/listings'
import { stopJobsOfBefore } from '../shelf/shelf-copying'
import { stopHandoutsOfBefore } from '../shelf/hand-out-state'
import { dropIncoming } from '../exchange/import-bundle'
import { closePasses, resumePasses } from '../passes/queue'
import { logFault } from '../log-fault'

/**
 * Jobs that were under way when the server ended are marked as stopped and can be resumed; scans resume by themselves.
 */
export default defineNitroPlugin((nitro) => {
  stopJobsOfBefore()
  stopFetchesOfBefore()
  stopHandoutsOfBefore()
  breakOffListings()
  void dropIncoming().catch((error) => logFault(error))
  void useLantern()
    .ready.then(resumePasses)
    .catch((error) => logFault(error))
  nitro.hooks.hook('close', closePasses)
})
