import { benchOf } from '../../../../../../bench/answer'
import { throughLink } from '../../../../../../bench/link-failures'
import { makeSafetyCopy } from '../../../../../../bench/safety-copy'

export default defineRoute({ may: 'work' }, ({ param, writer }) =>
  throughLink(async () => {
    await makeSafetyCopy(param('code'), param('link'), writer)
    return benchOf(param('code'))
  }),
)
