import { NamedPaths } from '../../../../core/bench/answers'
import { namedPaths } from '../../../links/register'

export default defineRoute({ answers: NamedPaths, may: 'playbook' }, () => ({ paths: namedPaths() }))
