import { BenchAnswer } from '../../../../../../core/bench/bench'
import { benchOf } from '../../../../../bench/answer'
import { resumeCopying } from '../../../../../shelf/shelf-copying'

export default defineRoute({ answers: BenchAnswer, may: 'work' }, async ({ param, writer }) => {
  await resumeCopying(param('code'), writer)
  return benchOf(param('code'))
})
