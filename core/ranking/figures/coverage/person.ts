import { known } from '../../../cases/shape/fact'
import { countOf } from '../../../cases/shape/wanted'
import { clamped } from '../../situation/estimate'
import { flat, type CoverageRule } from './coverage-rule'
import { fromMemory } from './shares'

/** What was sent to somebody, or came from them. */
export const person: CoverageRule<'person'> = (binding, { share }, axis) => {
  const copy = binding.copy
  const { count } = axis.wanted
  if (copy && known(copy.count) && known(count)) {
    const part = clamped(copy.count / countOf(axis.wanted))
    return {
      bySlice: flat(axis, fromMemory(part)),
      fact: `copies.${copy.id}.count`,
      says: () => `About ${copy.count} of about ${count} were sent.`,
    }
  }
  return {
    bySlice: flat(axis, share),
    fact: copy ? `copies.${copy.id}.count` : null,
    says: () => 'Usually only some of them were ever sent.',
  }
}
