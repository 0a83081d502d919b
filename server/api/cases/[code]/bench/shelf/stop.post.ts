import { benchOf } from '../../../../../bench/answer'
import { stopCopying } from '../../../../../shelf/shelf-copying'

export default defineRoute({ may: 'work' }, ({ param }) => {
  stopCopying(param('code'))
  return benchOf(param('code'))
})
