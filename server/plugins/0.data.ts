import { DataFault } from '../db/data-folder'

/**
 * Opens the data folder before anything else, for this server alone; a folder that cannot be used ends the start with
 * one line.
 */
export default defineNitroPlugin(() => {
  // Everything written, also by child processes, is for this user only.
  process.umask(0o077)
  try {
    useLantern()
  } catch (error) {
    if (!(error instanceof DataFault)) throw error
    console.error(`✖ ${error.message}`)
    process.exit(1)
  }
})
