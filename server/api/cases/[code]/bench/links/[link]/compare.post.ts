import { ActionAsk } from '../../../../../../../core/bench/bench'
import { compare } from '../../../../../../bench/guard'
import { throughLink } from '../../../../../../bench/link-failures'

export default defineRoute({ may: 'work', body: ActionAsk }, ({ body, param }) =>
  throughLink(() => compare(param('code'), param('link'), body.action, body.parameters)),
)
