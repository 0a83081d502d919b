import { namedPaths } from '../../../links/register'

export default defineRoute({ may: 'playbook' }, () => ({ paths: namedPaths() }))
