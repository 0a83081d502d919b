import { CaseList, CaseListAnswer } from '../../../../core/exchange/case-list'
import { takeList } from '../../../exchange/lists'

/** A list of cases out of a sheet: a dry run with every fault, or the import itself. */
export default defineRoute({ answers: CaseListAnswer, may: 'close', body: CaseList }, ({ body, playbook, writer }) =>
  takeList(body, playbook, writer),
)
