import { LookBegun } from '../../../../../../../core/bench/answers'
import { LookStart } from '../../../../../../../core/bench/bench'
import { throughLink } from '../../../../../../links/link-failures'
import { startLook } from '../../../../../../listings/looks'

export default defineRoute({ answers: LookBegun, may: 'work', body: LookStart }, ({ body, param, writer }) =>
  throughLink(async () => ({ look: await startLook(param('code'), param('link'), body.keep, writer) })),
)
