import { ArrivingBatches } from '../../../../../../core/bench/batch'
import { namedFolders } from '../../../../../links/folders'
import { arrivingBatches } from '../../../../../steps/batches'

export default defineRoute({ answers: ArrivingBatches, may: 'work' }, async ({ param }) => ({
  arriving: await arrivingBatches(param('code')),
  folders: namedFolders(),
}))
