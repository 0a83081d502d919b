import { known } from '../../../cases/shape/fact'
import { spanOf } from '../../../cases/shape/moment'
import { spanWords } from '../../../cases/telling/words'
import { zoneOf, type Situation } from '../../situation/situation'
import { shareAfter } from '../../situation/spread'
import { NEVER, type Closing } from './window-rule'

/** The client's own deadline, which closes every route. */
export function deadlineClosing(situation: Situation): Closing {
  const { deadline } = situation.ofCase.limits
  if (!known(deadline)) return NEVER
  const span = spanOf(deadline)
  return {
    survival: (time) => (time > span.to ? 0 : span.from === span.to || time <= span.from ? 1 : shareAfter(span, time)),
    earliest: span.from,
    latest: span.to,
    fact: 'limits.deadline',
    says: () => `Has to be done by ${spanWords(span, zoneOf(situation), situation.now)}.`,
  }
}
