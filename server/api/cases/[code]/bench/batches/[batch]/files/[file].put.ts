import { z } from 'zod'
import { BatchProgress } from '../../../../../../../../core/bench/batch'
import { faultsOf } from '../../../../../../../../core/cases/shape/faults'
import { invalid } from '../../../../../../../failure'
import { appendToBatch } from '../../../../../../../steps/batches'

const From = z.object({ from: z.coerce.number().int().min(0) })

/** A part of a file of a batch, as raw bytes from an offset on. It counts as use of the session by nobody. */
export default defineRoute({ answers: BatchProgress, may: 'work', goesOnIdle: true }, ({ event, param }) => {
  const read = From.safeParse(getQuery(event))
  if (!read.success) throw invalid(faultsOf(read.error))
  return appendToBatch(param('code'), param('batch'), Number(param('file')), read.data.from, event.node.req)
})
