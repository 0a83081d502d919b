// Counts and pages through long lists beside the server's thread, so that nothing else waits for them.
import { parentPort, workerData } from 'node:worker_threads'
import { connect } from '../db/open'
import { FIND_ORDERS, type FindAnswer, type FindOrder } from './find-orders'

const database = connect((workerData as { dataFolder: string }).dataFolder)

parentPort!.on('message', ({ id, name, given }: FindOrder) => {
  let answer: FindAnswer
  try {
    const work = FIND_ORDERS[name] as (...all: unknown[]) => unknown
    answer = { id, result: work(database, ...given) }
  } catch (error) {
    answer = { id, fault: (error as Error).stack ?? String(error) }
  }
  parentPort!.postMessage(answer)
})
