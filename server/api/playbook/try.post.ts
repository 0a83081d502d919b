import { TrialAnswer } from '../../../core/playbook/draft'
import { tryDraft } from '../../playbook/trial'

/** Which plans of open cases and which worked cases the draft would change. */
export default defineRoute({ answers: TrialAnswer, may: 'playbook' }, ({ now }) => tryDraft(useLantern().database, now))
