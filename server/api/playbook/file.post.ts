import { DraftAnswer } from '../../../core/playbook/draft'
import { Playbook } from '../../../core/playbook/playbook'
import { draftFromFile } from '../../playbook/draft'

/** Reads a playbook file into the draft: the routes that differ. The shop’s own settings stay. */
export default defineRoute({ answers: DraftAnswer, may: 'playbook', body: Playbook }, ({ body, writer }) =>
  draftFromFile(useLantern().database, body, writer),
)
