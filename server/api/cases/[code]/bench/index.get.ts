import { BenchAnswer } from '../../../../../core/bench/bench'
import { benchOf } from '../../../../bench/answer'

export default defineRoute({ answers: BenchAnswer, may: 'work' }, ({ param }) => benchOf(param('code')))
