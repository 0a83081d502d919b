import { known } from '../../../cases/shape/fact'
import { HOUR_MS, spanOf, type Span } from '../../../cases/shape/moment'
import { momentWords } from '../../../cases/telling/words'
import { zoneOf } from '../../situation/situation'
import { shareAfter } from '../../situation/spread'
import { NEVER, type WindowRule } from './window-rule'

/** The id of the hold that keeps such a device off the network. */
export const keepOfflineHold = (copyId: string) => `keep-offline-${copyId}`

/** Within this time a device that is used again is online, where nobody keeps it off the network. */
const ONLINE_HOURS = 48

/** Until the other device is online: then it syncs, and what it still shows goes there too. */
export const online: WindowRule<'online'> = (_window, { binding: { copy }, situation }) => {
  if (!copy) return NEVER
  const fact = `copies.${copy.id}.lastOnline`
  if (situation.ticked.has(keepOfflineHold(copy.id)))
    return { ...NEVER, fact, says: () => 'It shows them as long as it stays off the network.' }
  const within: Span = { from: situation.now, to: situation.now + ONLINE_HOURS * HOUR_MS }
  const wasOnlineSince = known(copy.lastOnline) && spanOf(copy.lastOnline).from > situation.loss.to
  // It has been online since and still shows them, so that it does not pass the loss on at once.
  const risk = wasOnlineSince ? 0.4 : 0.8
  return {
    survival: (time) => 1 - risk * (1 - shareAfter(within, time)),
    earliest: within.from,
    latest: within.to,
    fact,
    says: () =>
      known(copy.lastOnline)
        ? `Last online ${momentWords(copy.lastOnline, zoneOf(situation), situation.now)}: the next time, the loss reaches it too.`
        : 'As soon as it is online, the loss can reach it too.',
  }
}
