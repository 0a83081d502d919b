import { NamedFolders } from '../../../core/bench/answers'
import { namedFolders } from '../../links/folders'

export default defineRoute({ answers: NamedFolders, may: 'playbook' }, () => ({ folders: namedFolders() }))
