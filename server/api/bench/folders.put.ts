import { NamedFolders } from '../../../core/bench/answers'
import { nameable } from '../../../disk/nameable'
import { nameFolders, namedFolders } from '../../links/folders'
import { invalid } from '../../failure'
import { logForPerson } from '../../people/log-for-person'

/** The folders that are searched for backups; the owner names them. */
export default defineRoute(
  { answers: NamedFolders, may: 'playbook', body: NamedFolders },
  ({ event, person, body }) => {
    const real = body.folders.map((folder, at) => {
      const named = nameable(folder, 'folder', dataFolder())
      if ('fault' in named) throw invalid([{ path: `folders.${at}`, message: named.fault }])
      return named.path
    })
    nameFolders([...new Set(real)])
    logForPerson(event, person, { event: 'folders-named' })
    return { folders: namedFolders() }
  },
)
