import { known } from '../../../cases/shape/fact'
import { spanOf } from '../../../cases/shape/moment'
import { momentWords } from '../../../cases/telling/words'
import { ZERO, type Estimate } from '../../situation/estimate'
import { zoneOf } from '../../situation/situation'
import { pointsIn } from '../../situation/spread'
import { flat, type CoverageRule } from './coverage-rule'
import { madeBy, QUADRATURE } from './shares'

/** What another device of the same account still shows: all that had reached it when it was last online. */
export const otherDevice: CoverageRule<'other-device'> = ({ copy }, _brings, axis, situation) => {
  if (!copy) return { bySlice: flat(axis, ZERO), fact: null, says: () => 'There is no such device.' }
  const fact = `copies.${copy.id}.lastOnline`
  if (!known(copy.lastOnline))
    return {
      bySlice: flat(axis, [0.4, 0.7, 0.9]),
      fact,
      says: () => 'It is not known when it was last online; newer items may never have reached it.',
    }
  const { lastOnline } = copy
  const points = pointsIn(spanOf(lastOnline), QUADRATURE)
  const bySlice = axis.slices.map((slice): Estimate => {
    const reached = points.reduce((sum, time) => sum + madeBy(slice, time), 0) / points.length
    return [reached * 0.85, reached * 0.97, reached]
  })
  return {
    bySlice,
    fact,
    says: () =>
      `It has what had been made by ${momentWords(lastOnline, zoneOf(situation), situation.now)}, when it was last online.`,
  }
}
