import { namedPaths } from '../../../media/register'

export default defineRoute({ may: 'playbook' }, () => ({ paths: namedPaths() }))
