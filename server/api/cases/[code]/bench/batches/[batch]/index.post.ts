import { BatchLink } from '../../../../../../../core/bench/batch'
import { finishBatch } from '../../../../../../steps/batches'

/** All files of a batch have arrived: it becomes a link. */
export default defineRoute({ answers: BatchLink, may: 'work' }, async ({ param, writer }) => ({
  link: await finishBatch(param('code'), param('batch'), writer),
}))
