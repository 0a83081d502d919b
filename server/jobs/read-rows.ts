// Reads the rows of databases beside the server's thread: a large one takes seconds.
import { bytesSource } from '../../core/media/source'
import { rowsOf } from '../../core/media/sqlite/rows'
import { recordsOf } from '../../core/records/adapt'
import { answerOrders } from './answer-orders'
import type { RowsOrder, RowsTold } from './messages'

answerOrders(({ database, wal, journal }: RowsOrder): RowsTold => {
  const report = rowsOf(bytesSource(database), { wal, journal })
  return 'fault' in report ? report : { records: recordsOf(report) }
})
