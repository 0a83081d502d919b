import { stopFetchesOfBefore } from '../steps/fetches'
import { breakOffListings } from '../listings/listings'
import { stopJobsOfBefore } from '../shelf/shelf-copying'
import { closePasses, resumePasses } from '../passes/queue'

/**
 * What was under way when the server ended, however it ended, is shown as stopped and can be resumed; passes over media
 * go on by themselves.
 */
export default defineNitroPlugin((nitro) => {
  stopJobsOfBefore()
  stopFetchesOfBefore()
  breakOffListings()
  void useLantern()
    .ready.then(resumePasses)
    .catch((error) => console.error(error))
  nitro.hooks.hook('close', closePasses)
})
