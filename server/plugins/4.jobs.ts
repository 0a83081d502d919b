import { stopFetchesOfBefore } from '../bench/fetches'
import { breakOffLooks } from '../bench/looks'
import { stopJobsOfBefore } from '../bench/shelf-copying'
import { closePasses, resumePasses } from '../jobs/passes'

/**
 * What was under way when the server ended, however it ended, is told as stopped, and can be gone on with; passes over media
 * go on by themselves.
 */
export default defineNitroPlugin((nitro) => {
  stopJobsOfBefore()
  stopFetchesOfBefore()
  breakOffLooks()
  void useLantern()
    .ready.then(resumePasses)
    .catch((error) => console.error(error))
  nitro.hooks.hook('close', closePasses)
})
