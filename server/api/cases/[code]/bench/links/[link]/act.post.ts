import { ActionStart } from '../../../../../../../core/bench/bench'
import { Task } from '../../../../../../../core/bench/action'
import { startAction } from '../../../../../../steps/guard'
import { throughLink } from '../../../../../../links/link-failures'

export default defineRoute({ answers: Task, may: 'work', body: ActionStart }, ({ body, param, writer }) =>
  throughLink(() => startAction(param('code'), param('link'), body.action, body.parameters, body, writer)),
)
