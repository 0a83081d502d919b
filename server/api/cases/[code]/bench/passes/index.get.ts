import { passesOf } from '../../../../../passes/passes'
import { readStored } from '../../../../../cases/rows'

export default defineRoute({ may: 'work' }, ({ param }) => ({
  passes: passesOf(readStored(useLantern().database, param('code')).id),
}))
