import { ZERO } from '../../situation/estimate'
import { flat, type CoverageRule } from './coverage-rule'
import { syncedCoverage } from './synced'

/** What had synced is still there. */
export const library: CoverageRule<'library'> = (binding, _brings, axis, situation) => {
  const { how } = situation.ofCase.loss
  if (how === 'saved-over' || how === 'malware')
    return {
      bySlice: flat(axis, ZERO),
      fact: 'loss.how',
      says: () => 'The cloud holds the changed items too; look for their earlier versions.',
    }
  return syncedCoverage(binding, axis, situation)
}
