import { known } from '../../../cases/shape/fact'
import { countOf } from '../../../cases/shape/wanted'
import { clamped } from '../../situation/estimate'
import { flat, type CoverageRule } from './coverage-rule'
import { fromMemory } from './shares'

/** What such an account usually keeps of them. */
export const account: CoverageRule<'account'> = (binding, { share, shareOf }, axis) => {
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
  const { type } = axis.wanted
  const usual = (known(type) ? shareOf?.[type] : undefined) ?? share
  const says = () =>
    usual[1] > 0.6 ? 'What was said in it is kept in it.' : 'Only what was ever posted or sent there is in it.'
  return { bySlice: flat(axis, usual), fact, says }
}
