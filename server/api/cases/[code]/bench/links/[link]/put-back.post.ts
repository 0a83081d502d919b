import { PutBackWrite } from '../../../../../../../core/bench/bench'
import { throughLink } from '../../../../../../links/link-failures'
import { putBackFromShelf } from '../../../../../../steps/put-back'

export default defineRoute({ may: 'work', body: PutBackWrite }, ({ body, param, writer }) =>
  throughLink(() => putBackFromShelf(param('code'), param('link'), body, writer)),
)
