import { DraftAnswer } from '../../../core/playbook/draft'
import { dropDraft } from '../../playbook/draft'

/** Drops the draft. */
export default defineRoute({ answers: DraftAnswer, may: 'playbook' }, () => dropDraft(useLantern().database))
