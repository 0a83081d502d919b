import { SpokenSecrets } from '../../../../core/bench/answers'
import { thingOf } from '../../../../stand-ins/helper/helper'
import { toldBy } from '../../../../stand-ins/helper/told'
import { throughLink } from '../../../links/link-failures'
import { notFound } from '../../../failure'

/** What the owner of a stand-in would say at the counter: its passcode, its password, the code that was sent. */
export default defineRoute({ answers: SpokenSecrets, may: 'work' }, ({ param, now }) =>
  throughLink(async () => {
    const { standIns } = useLantern()
    if (!standIns) throw notFound('stand-in')
    return { told: standIns.with(now, null, (world) => toldBy(thingOf(world, param('id')))) }
  }),
)
