import { BenchAnswer } from '../../../../../../core/bench/bench'
import { z } from 'zod'
import { benchOf } from '../../../../../bench/answer'
import { throughLink } from '../../../../../links/link-failures'
import { copySelected } from '../../../../../shelf/shelf-copying'

export default defineRoute(
  { answers: BenchAnswer, may: 'work', body: z.object({ listing: z.int() }) },
  ({ body, param, writer }) =>
    throughLink(async () => {
      await copySelected(param('code'), body.listing, writer)
      return benchOf(param('code'))
    }),
)
