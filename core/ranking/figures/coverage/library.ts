import { known } from '../../../cases/shape/fact'
import { ZERO } from '../../situation/estimate'
import { flat, type CoverageRule } from './coverage-rule'
import { snapshot } from './snapshot'
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
  // A state of the list from some day is a snapshot of what was in it then.
  const isState = binding.copy?.kind === 'contact-archive' && known(binding.copy.taken)
  if (isState && binding.kind.effects.turnsBack) return snapshot(binding, { by: 'snapshot' }, axis, situation)
  return syncedCoverage(binding, axis, situation)
}
