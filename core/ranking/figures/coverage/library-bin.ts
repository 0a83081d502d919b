import { ZERO, type Estimate } from '../../situation/estimate'
import { flat, type CoverageRule } from './coverage-rule'
import { deletionOdds } from './shares'
import { syncedCoverage } from './synced'

/** What had synced, and was deleted since. */
export const libraryBin: CoverageRule<'library-bin'> = (binding, _brings, axis, situation) => {
  const reached = syncedCoverage(binding, axis, situation)
  const { how } = situation.ofCase.loss
  // What was deleted past the device's bin may have been erased in the cloud too, or only moved into its bin.
  const deleted: Estimate = how === 'deleted-past-bin' ? [0.15, 0.4, 0.7] : deletionOdds(how)
  if (binding.copy?.binEmptied === 'yes')
    return {
      bySlice: flat(axis, ZERO),
      fact: `copies.${binding.copy.id}.binEmptied`,
      says: () => 'Its bin has been emptied.',
    }
  if (deleted[2] === 0)
    return {
      bySlice: flat(axis, ZERO),
      fact: 'loss.how',
      says: () => 'Nothing was deleted in the cloud, so its bin has nothing to do with it.',
    }
  return {
    bySlice: reached.bySlice.map((value) => [value[0] * deleted[0], value[1] * deleted[1], value[2] * deleted[2]]),
    fact: reached.fact,
    says: reached.says,
  }
}
