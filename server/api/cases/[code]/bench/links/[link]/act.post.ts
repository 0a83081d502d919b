import { ActionStart } from '../../../../../../../core/bench/bench'
import { startAction } from '../../../../../../bench/guard'
import { throughLink } from '../../../../../../bench/link-failures'

export default defineRoute({ may: 'work', body: ActionStart }, ({ body, param, writer }) =>
  throughLink(() => startAction(param('code'), param('link'), body.action, body.parameters, body, writer)),
)
