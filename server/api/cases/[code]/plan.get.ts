import { fullPlanOf } from '../../../../core/ranking/plan'
import { readStored } from '../../../cases/rows'

export default defineRoute({}, ({ param, playbook, now }) =>
  fullPlanOf(readStored(useLantern().database, param('code')).case, playbook, now),
)
