import { AttachWrite, BenchAnswer } from '../../../../../core/bench/bench'
import { benchOf } from '../../../../bench/answer'
import { attach } from '../../../../links/case-links'

export default defineRoute(
  { answers: BenchAnswer, may: 'work', body: AttachWrite },
  async ({ body, param, writer }) => {
    await attach(param('code'), body.part, body.link, writer)
    return benchOf(param('code'))
  },
)
