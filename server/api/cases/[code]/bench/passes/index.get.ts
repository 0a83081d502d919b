import { PassList } from '../../../../../../core/bench/answers'
import { passesOf } from '../../../../../passes/pass-shapes'
import { readStored } from '../../../../../cases/rows'

export default defineRoute({ answers: PassList, may: 'work' }, ({ param }) => ({
  passes: passesOf(readStored(useLantern().database, param('code')).id),
}))
