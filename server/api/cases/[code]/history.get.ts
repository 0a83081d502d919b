import { historySince, readStored } from '../../../cases/rows'

export default defineRoute({}, ({ param }) => {
  const { database } = useLantern()
  return historySince(database, readStored(database, param('code')).id, 0)
})
