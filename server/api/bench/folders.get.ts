import { namedFolders } from '../../links/folders'

export default defineRoute({ may: 'playbook' }, () => ({ folders: namedFolders() }))
