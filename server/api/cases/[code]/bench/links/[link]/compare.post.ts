import { ActionAsk, Comparison } from '../../../../../../../core/bench/bench'
import { compare } from '../../../../../../steps/guard'
import { throughLink } from '../../../../../../links/link-failures'

export default defineRoute({ answers: Comparison, may: 'work', body: ActionAsk }, ({ body, param }) =>
  throughLink(() => compare(param('code'), param('link'), body.action, body.parameters)),
)
