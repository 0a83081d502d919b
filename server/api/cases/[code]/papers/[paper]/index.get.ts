import { SheetDocument } from '../../../../../../core/handover/document'
import { paperOf } from '../../../../../handover/papers'

export default defineRoute({ answers: SheetDocument, may: 'see' }, ({ param, person }) =>
  paperOf(param('code'), Number(param('paper')), person.role),
)
