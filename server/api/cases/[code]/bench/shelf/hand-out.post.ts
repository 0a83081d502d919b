import { BenchAnswer } from '../../../../../../core/bench/bench'
import { HandoutStart } from '../../../../../../core/bench/shelf'
import { benchOf } from '../../../../../bench/answer'
import { startHandout } from '../../../../../shelf/hand-out'

/** Copies the shelf onto a client's medium or into a folder that the owner has named. */
export default defineRoute(
  { answers: BenchAnswer, may: 'work', body: HandoutStart },
  async ({ body, param, playbook, writer }) => {
    await startHandout(param('code'), body, playbook.shop.name, writer)
    return benchOf(param('code'))
  },
)
