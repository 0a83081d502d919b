import { BenchAnswer } from '../../../../../../core/bench/bench'
import { benchOf } from '../../../../../bench/answer'
import { stopCopying } from '../../../../../shelf/shelf-copying'

export default defineRoute({ answers: BenchAnswer, may: 'work' }, ({ param }) => {
  stopCopying(param('code'))
  return benchOf(param('code'))
})
