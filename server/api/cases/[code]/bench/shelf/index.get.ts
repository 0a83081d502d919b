import { readStored } from '../../../../../cases/rows'
import { shelfList } from '../../../../../bench/shelf'

/** What lies on the shelf of a case, or waits to. */
export default defineRoute({}, ({ param }) => ({
  items: shelfList(readStored(useLantern().database, param('code')).id),
}))
