// Reads the rows of a database that a client brought, in a process of its own.
import { bytesSource } from '../../core/sources/source'
import { rowsOf } from '../../core/sqlite/rows'
import { recordsOf } from '../../core/records/adapt'
import { answerInProcess } from './answer-in-process'
import type { RowsOrder, RowsTold } from './messages'

answerInProcess<RowsOrder>(({ database, wal, journal }, bytes): RowsTold => {
  let from = 0
  const next = (count: number | null) => (count === null ? null : bytes.subarray(from, (from += count)))
  const report = rowsOf(bytesSource(next(database)!), { wal: next(wal), journal: next(journal) })
  if ('fault' in report) throw new Error(`it ${report.fault}`)
  return { records: recordsOf(report), warnings: report.warnings }
})
