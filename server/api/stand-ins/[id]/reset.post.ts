import { notFound } from '../../../failure'
import { readPlaybook } from '../../../settings'
import { makeStandIns } from '../../../stand-ins/make'

/** Resets a stand-in to the state in which it is made. */
export default defineRoute({ answers: null, may: 'work' }, async ({ param, now }) => {
  const { standIns, database } = useLantern()
  if (!standIns) throw notFound('stand-in')
  const made = await makeStandIns(standIns.contents, now, readPlaybook(database).shop.zone, new Set([param('id')]))
  if (made.length === 0) throw notFound('stand-in')
  standIns.put(made)
})
