import { FetchStart, BenchAnswer } from '../../../../../../../core/bench/bench'
import { benchOf } from '../../../../../../bench/answer'
import { fetchBackup } from '../../../../../../steps/fetches'
import { throughLink } from '../../../../../../links/link-failures'

export default defineRoute({ answers: BenchAnswer, may: 'work', body: FetchStart }, ({ body, param, writer }) =>
  throughLink(async () => {
    await fetchBackup(param('code'), param('link'), body.keep, writer)
    return benchOf(param('code'))
  }),
)
