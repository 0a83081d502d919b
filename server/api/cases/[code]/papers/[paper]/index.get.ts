import { PrintedSheet } from '../../../../../../core/handover/paper'
import { paperOf } from '../../../../../handover/papers'

export default defineRoute({ answers: PrintedSheet, may: 'see' }, ({ param, person }) =>
  paperOf(param('code'), Number(param('paper')), person.role),
)
