import { BatchFolder, BatchLink } from '../../../../../../core/bench/batch'
import { nameBatchFolder } from '../../../../../steps/batches'

/** A folder of this machine is read where it is. */
export default defineRoute(
  { answers: BatchLink, may: 'work', body: BatchFolder },
  async ({ body, param, person, writer }) => ({ link: await nameBatchFolder(param('code'), body, person, writer) }),
)
