import { BenchAnswer, SafetyCopyStart } from '../../../../../../../core/bench/bench'
import { benchOf } from '../../../../../../bench/answer'
import { throughLink } from '../../../../../../links/link-failures'
import { makeSafetyCopy } from '../../../../../../steps/safety-copy'

export default defineRoute({ answers: BenchAnswer, may: 'work', body: SafetyCopyStart }, ({ body, param, writer }) =>
  throughLink(async () => {
    await makeSafetyCopy(param('code'), param('link'), body.password, writer)
    return benchOf(param('code'))
  }),
)
