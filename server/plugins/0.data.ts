import { DataFault } from '../db/data-folder'

/** Opens the data folder before anything else, for this server alone; one that cannot be used ends the start with one line. */
export default defineNitroPlugin(() => {
  // Whatever is written, also by the processes beside, is for this user only.
  process.umask(0o077)
  try {
    useLantern()
  } catch (error) {
    if (!(error instanceof DataFault)) throw error
    console.error(`✖ ${error.message}`)
    process.exit(1)
  }
})
