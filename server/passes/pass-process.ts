// A scan of a medium as a process of its own, started and watched by the server.
import { constants, setPriority } from 'node:os'
import { connect } from '../db/open'
import type { PassMessage, PassOrder } from './pass-messages'
import { runPass, type Wish } from './run-pass'
import { logFault } from '../log-fault'

let wish: Wish = 'continue'
const tell = (message: PassMessage) => process.send?.(message)

process.on('message', (message: PassOrder) => {
  if (message.order === 'wish') wish = message.wish
  else
    void work(message).then(
      () => process.exit(0),
      (error: NodeJS.ErrnoException) => {
        tell({ tells: 'fault', says: wordsOf(error) })
        logFault(error)
        // Let the message be sent before exiting.
        setTimeout(() => process.exit(1), 50)
      },
    )
})
// A killed server can no longer be told anything; after its restart it starts the scan again.
process.on('disconnect', () => (wish = 'end'))
// Ctrl-C reaches the whole group; the server decides what happens to its jobs.
process.on('SIGINT', () => {})

async function work({ job, dataFolder }: Extract<PassOrder, { order: 'run' }>): Promise<void> {
  try {
    setPriority(constants.priority.PRIORITY_LOW)
  } catch {
    // Not every system lets a process lower its priority; it works all the same.
  }
  const database = connect(dataFolder)
  try {
    const state = await runPass(database, job, {
      tell: (progress) => tell({ tells: 'progress', progress }),
      wish: () => wish,
      clock: () => performance.now(),
    })
    tell({ tells: 'end', state })
  } finally {
    database.$client.close()
  }
}

function wordsOf(error: NodeJS.ErrnoException): string {
  if (error.code === 'ENOENT') return 'The medium is no longer there.'
  if (error.code === 'EACCES' || error.code === 'EPERM') return 'The server has no permission to read the medium.'
  if (error.code === 'ENOSPC' || error.code === 'SQLITE_FULL') return 'The disk of this machine is full.'
  if (error.code === 'ENXIO' || error.code === 'ENODEV') return 'The medium was removed.'
  return 'Reading failed for a reason that is not known; the server’s log has the details.'
}
