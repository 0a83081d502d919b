import { ClockAnswer } from '../../core/people/session'
import { z } from 'zod'
import { instant } from '../../core/cases/shape/moment'
import { trustClock, wipeDue } from '../afterwards/due'
import { refused } from '../failure'

/** Sets the time, where the server was started so that this is allowed: for tests and for practice. */
export default defineRoute(
  { answers: ClockAnswer, may: 'work', body: z.object({ now: instant }) },
  async ({ body }) => {
    const { clock, database, isClockSettable } = useLantern()
    if (!isClockSettable) throw refused('The clock can only be changed in the demo.')
    clock.set(Date.parse(body.now))
    trustClock(database, clock.now())
    await wipeDue()
    return { now: new Date(clock.now()).toISOString() }
  },
)
