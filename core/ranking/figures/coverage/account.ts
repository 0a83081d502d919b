import { known } from '../../../cases/shape/fact'
import { countOf } from '../../../cases/shape/wanted'
import { clamped } from '../../situation/estimate'
import { flat, type CoverageRule } from './coverage-rule'
import { fromMemory } from './shares'

/** What such an account usually keeps of them. */
export const account: CoverageRule<'account'> = (binding, { share }, axis) => {
  const { copy } = binding
  const { count } = axis.wanted
  const fact = copy ? `copies.${copy.id}.count` : null
  if (copy && known(copy.count) && known(count)) {
    const part = clamped(copy.count / countOf(axis.wanted))
    return {
      bySlice: flat(axis, fromMemory(part)),
      fact,
      says: () => `About ${copy.count} of about ${count} are in it.`,
    }
  }
  return { bySlice: flat(axis, share), fact, says: () => 'Only what was ever posted or sent there is in it.' }
}
