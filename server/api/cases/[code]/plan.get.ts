import { FullPlan } from '../../../../core/ranking/situation/plan-shape'
import { planOfStored } from '../../../cases/plans'
import { readStored } from '../../../cases/rows'

/** The stored plan of a case with its questions; computed again where it is out of date. */
export default defineRoute({ answers: FullPlan, may: 'see' }, ({ param, playbook, now }) => {
  const { database } = useLantern()
  return planOfStored(database, readStored(database, param('code')), { playbook, now }, 'whole')
})
