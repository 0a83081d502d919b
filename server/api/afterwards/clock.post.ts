import { AfterwardsList } from '../../../core/afterwards/record'
import { afterwardsList } from '../../afterwards/answer'
import { trustClock, wipeDue } from '../../afterwards/due'

/** An owner says that the clock of the machine is right, although it has jumped: what is due is wiped from now on. */
export default defineRoute({ answers: AfterwardsList, may: 'people' }, async ({ person, now }) => {
  trustClock(useLantern().database, now)
  await wipeDue()
  return afterwardsList(person.role, now)
})
