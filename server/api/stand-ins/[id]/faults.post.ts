import { LinkState } from '../../../../core/bench/state'
import { z } from 'zod'
import { setFaults, stateOf, thingOf } from '../../../../stand-ins/helper/helper'
import { throughLink } from '../../../links/link-failures'
import { notFound } from '../../../failure'

const Faults = z
  .object({
    isLost: z.boolean(),
    dropAfter: z.int().min(0).nullable(),
    slow: z.int().min(1000).nullable(),
    isFull: z.boolean(),
    corrupt: z.array(z.string().max(300)).max(1000),
  })
  .partial()

/** Simulates a fault of a stand-in, to practise on. */
export default defineRoute({ answers: LinkState, may: 'work', body: Faults }, ({ body, param, now }) =>
  throughLink(async () => {
    const { standIns } = useLantern()
    if (!standIns) throw notFound('stand-in')
    return standIns.with(now, param('id'), (world) => {
      const thing = thingOf(world, param('id'))
      setFaults(thing, body)
      return stateOf(world, thing)
    })
  }),
)
