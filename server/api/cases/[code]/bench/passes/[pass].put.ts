import { PassList } from '../../../../../../core/bench/answers'
import { PassWish } from '../../../../../../core/bench/medium'
import { passesOf } from '../../../../../passes/pass-shapes'
import { wishOfPass } from '../../../../../passes/passes'
import { readStored } from '../../../../../cases/rows'

export default defineRoute({ answers: PassList, may: 'work', body: PassWish }, async ({ body, param, writer }) => {
  await wishOfPass(param('code'), Number(param('pass')), body.wish, writer)
  return { passes: passesOf(readStored(useLantern().database, param('code')).id) }
})
