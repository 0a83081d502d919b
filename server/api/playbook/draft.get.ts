import { DraftAnswer } from '../../../core/playbook/draft'
import { draftAnswer } from '../../playbook/draft'

/** The draft of the playbook, and what of it clashes with the shipped one. */
export default defineRoute({ answers: DraftAnswer, may: 'playbook' }, () => draftAnswer(useLantern().database))
