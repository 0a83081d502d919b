// Counts and pages long lists beside the server's thread, so that no other request waits for them.
import { workerData } from 'node:worker_threads'
import { connect } from '../db/open'
import { answerOrders } from '../threads/answer-orders'
import { FIND_ORDERS, type FindOrder } from './find-orders'

const database = connect((workerData as { dataFolder: string }).dataFolder)

answerOrders<FindOrder>(({ name, given }) => {
  const work = FIND_ORDERS[name] as (...all: unknown[]) => unknown
  return work(database, ...given)
})
