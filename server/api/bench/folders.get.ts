import { namedFolders } from '../../bench/folders'

export default defineRoute({ may: 'playbook' }, () => ({ folders: namedFolders() }))
