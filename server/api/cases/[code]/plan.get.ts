import { FullPlan } from '../../../../core/ranking/situation/plan-shape'
import { planOfStored } from '../../../cases/plans'
import { readStored } from '../../../cases/rows'

/** The plan that is kept of a case, with its questions; made anew where it does not hold any more. */
export default defineRoute({ answers: FullPlan, may: 'see' }, ({ param, playbook, now }) => {
  const { database } = useLantern()
  return planOfStored(database, readStored(database, param('code')), { playbook, now }, 'whole')
})
