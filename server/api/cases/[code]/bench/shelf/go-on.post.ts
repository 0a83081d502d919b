import { benchOf } from '../../../../../bench/answer'
import { goOnCopying } from '../../../../../bench/shelf'

export default defineRoute({ may: 'work' }, ({ param, writer }) => {
  goOnCopying(param('code'), writer)
  return benchOf(param('code'))
})
