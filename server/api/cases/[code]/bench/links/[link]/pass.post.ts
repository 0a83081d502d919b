import { PassBegun } from '../../../../../../../core/bench/answers'
import { PassOptions } from '../../../../../../../core/bench/medium'
import { throughLink } from '../../../../../../links/link-failures'
import { startPass } from '../../../../../../passes/passes'

export default defineRoute({ answers: PassBegun, may: 'work', body: PassOptions }, ({ body, param, writer }) =>
  throughLink(() => startPass(param('code'), param('link'), body, writer)),
)
