import { HandoutFolders } from '../../../core/bench/shelf'
import { foldersNow } from '../../shelf/hand-out-folders'

/** The folders for handing over, as they are now. */
export default defineRoute({ answers: HandoutFolders, may: 'work' }, () => foldersNow())
