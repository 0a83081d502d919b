import { notFound } from '../../../failure'
import { readPlaybook } from '../../../settings'
import { makeStandIns } from '../../../stand-ins/make'

/** Puts a stand-in back as it is made, as if nothing had been done with it. */
export default defineRoute({ answers: null, may: 'work' }, async ({ param, now }) => {
  const { standIns, database } = useLantern()
  if (!standIns) throw notFound('stand-in')
  const made = await makeStandIns(standIns.contents, now, readPlaybook(database).shop.zone, new Set([param('id')]))
  if (made.length === 0) throw notFound('stand-in')
  standIns.put(made)
})
