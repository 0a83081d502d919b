import { STILL_THERE } from '../../../cases/shape/loss'
import { DAY_MS } from '../../../cases/shape/moment'
import { ONE, ZERO } from '../../situation/estimate'
import { pointsIn } from '../../situation/spread'
import { flat, type CoverageRule } from './coverage-rule'

/** Deleted rows that a database still contains, fading by half in a number of days of use. */
export const rows: CoverageRule<'rows'> = (_binding, { share, halfLifeDays }, axis, situation) => {
  const { how, since } = situation.ofCase.loss
  if (STILL_THERE.includes(how))
    return { bySlice: flat(axis, ONE), fact: 'loss.how', says: () => 'Nothing was deleted; the rows are all there.' }
  if (how === 'app-removed' || how === 'factory-reset')
    return {
      bySlice: flat(axis, ZERO),
      fact: 'loss.how',
      says: () => 'The whole database was deleted, and its rows with it.',
    }
  const days = pointsIn(situation.loss, 5).map((time) => Math.max(0, situation.now - time) / DAY_MS)
  const use = since.used === 'no' ? 0 : since.used === 'yes' ? 1 : 0.5
  const left = days.reduce((sum, past) => sum + 0.5 ** ((use * past) / halfLifeDays), 0) / days.length
  return {
    bySlice: flat(axis, [share[0] * left, share[1] * left, share[2] * left]),
    fact: 'loss.since.used',
    says: () =>
      use === 0
        ? 'Deleted rows stay in free pages of the database; nothing was written since.'
        : 'Deleted rows stay in free pages until new rows overwrite them.',
  }
}
