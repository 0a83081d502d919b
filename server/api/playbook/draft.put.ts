import { DraftAnswer, DraftChange } from '../../../core/playbook/draft'
import { changeDraft } from '../../playbook/draft'

/** Changes one thing of the draft; the playbook stays as it is. */
export default defineRoute({ answers: DraftAnswer, may: 'playbook', body: DraftChange }, ({ body, writer }) =>
  changeDraft(useLantern().database, body, writer),
)
