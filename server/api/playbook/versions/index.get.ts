import { VersionList } from '../../../../core/playbook/draft'
import { versionsOf } from '../../../playbook/versions'

/** The versions of the playbook, newest first. */
export default defineRoute({ answers: VersionList, may: 'playbook' }, () => versionsOf(useLantern().database))
