import { ActionStart } from '../../../../../../../core/bench/bench'
import { startAction } from '../../../../../../steps/guard'
import { throughLink } from '../../../../../../links/link-failures'

export default defineRoute({ may: 'work', body: ActionStart }, ({ body, param, writer }) =>
  throughLink(() => startAction(param('code'), param('link'), body.action, body.parameters, body, writer)),
)
