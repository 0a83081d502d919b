import { stopFetchesOfBefore } from '../bench/fetches'
import { breakOffLooks } from '../bench/looks'
import { stopJobsOfBefore } from '../bench/shelf'

/** What was under way when the server ended, however it ended, is told as stopped, and can be gone on with. */
export default defineNitroPlugin(() => {
  stopJobsOfBefore()
  stopFetchesOfBefore()
  breakOffLooks()
})
