import { NamedFolders } from '../../../core/bench/answers'
import { logForPerson } from '../../people/log-for-person'
import { handoutFolders, nameHandoutFolders } from '../../shelf/hand-out-folders'

/** The folders into which shelves may be copied; the owner names them. */
export default defineRoute(
  { answers: NamedFolders, may: 'playbook', body: NamedFolders },
  ({ event, person, body }) => {
    nameHandoutFolders(body.folders)
    logForPerson(event, person, { event: 'folders-named' })
    return { folders: handoutFolders() }
  },
)
