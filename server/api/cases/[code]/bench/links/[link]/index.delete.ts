import { BenchAnswer } from '../../../../../../../core/bench/bench'
import { benchOf } from '../../../../../../bench/answer'
import { discardBatch } from '../../../../../../steps/batches'

/** Files that were brought by hand are taken off the case again. */
export default defineRoute({ answers: BenchAnswer, may: 'work' }, async ({ param, writer }) => {
  await discardBatch(param('code'), param('link'), writer)
  return benchOf(param('code'))
})
