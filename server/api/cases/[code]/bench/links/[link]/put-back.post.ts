import { PutBackAnswer } from '../../../../../../../core/bench/answers'
import { PutBackWrite } from '../../../../../../../core/bench/bench'
import { throughLink } from '../../../../../../links/link-failures'
import { putBackFromShelf } from '../../../../../../steps/put-back'

export default defineRoute({ answers: PutBackAnswer, may: 'work', body: PutBackWrite }, ({ body, param, writer }) =>
  throughLink(() => putBackFromShelf(param('code'), param('link'), body, writer)),
)
