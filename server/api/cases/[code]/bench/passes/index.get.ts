import { passesOf } from '../../../../../jobs/passes'
import { readStored } from '../../../../../cases/rows'

export default defineRoute({}, ({ param }) => ({
  passes: passesOf(readStored(useLantern().database, param('code')).id),
}))
