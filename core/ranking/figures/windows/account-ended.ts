import type { Copy } from '../../../cases/shape/copy'
import { known } from '../../../cases/shape/fact'
import { DAY_MS, spanOf } from '../../../cases/shape/moment'
import { momentWords } from '../../../cases/telling/words'
import { zoneOf, type Situation } from '../../situation/situation'
import { sumIsAfter } from '../../situation/spread'
import { daysWords } from './kept'
import { NEVER, type Closing } from './window-rule'

/** How long an account that was closed can still be opened again: most are kept for some weeks before they are erased. */
const STAYS = { minDays: 14, maxDays: 45 }

/** What is in an account goes some time after the account was closed, which is a range. */
export function endedClosing(copy: Copy | null, situation: Situation): Closing {
  if (!copy || !known(copy.ended)) return NEVER
  const said = copy.ended
  const ended = spanOf(said)
  const stays = { from: STAYS.minDays * DAY_MS, to: STAYS.maxDays * DAY_MS }
  const latest = ended.to + stays.to
  return {
    survival: (time) => sumIsAfter(ended, stays, time),
    earliest: ended.from + stays.from,
    latest,
    fact: `copies.${copy.id}.ended`,
    says: () =>
      situation.now > latest
        ? 'The account was closed too long ago: what was in it has been erased.'
        : `Its account ${ended.from > situation.now ? 'closes' : 'was closed'} ${momentWords(said, zoneOf(situation), situation.now)}; such accounts can be opened again for ${daysWords(STAYS)}.`,
  }
}
