import { ArrivingBatch, BatchStart } from '../../../../../../core/bench/batch'
import { startBatch } from '../../../../../steps/batches'

export default defineRoute({ answers: ArrivingBatch, may: 'work', body: BatchStart }, ({ body, param }) =>
  startBatch(param('code'), body),
)
