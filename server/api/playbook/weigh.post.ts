import { Weights } from '../../../core/playbook/shop'
import { WeighedList } from '../../../core/ranking/explain/weighed'
import { weighedOnDemo } from '../../playbook/weights'

/** What other weights would change in the plans of three cases of the demo; nothing is stored. */
export default defineRoute({ answers: WeighedList, may: 'playbook', body: Weights }, ({ body, playbook, now }) =>
  weighedOnDemo(playbook, body, now),
)
