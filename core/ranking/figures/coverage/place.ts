import { DELETIONS } from '../../../cases/shape/loss'
import { known } from '../../../cases/shape/fact'
import type { Estimate } from '../../situation/estimate'
import { flat, type CoverageRule } from './coverage-rule'

/** What was only moved. */
export const place: CoverageRule<'place'> = (_binding, { share }, axis, { ofCase, told }) => {
  // While the kind of loss is unknown, the items may never have been lost, whatever is supposed otherwise.
  const loss = known(told.ofCase.loss.how) ? ofCase.loss : told.ofCase.loss
  const still =
    loss.how === 'unknown'
      ? 4
      : DELETIONS.includes(loss.how) || loss.how === 'sync-switched'
        ? 1
        : loss.how === 'crashed-before-saving' || loss.how === 'saved-over' || loss.how === 'app-removed'
          ? 1
          : 0
  const value: Estimate = [
    Math.min(0.6, share[0] * still),
    Math.min(0.7, share[1] * still),
    Math.min(0.8, share[2] * still),
  ]
  return {
    bySlice: flat(axis, value),
    fact: 'loss.how',
    says: () =>
      still === 0
        ? 'They were not just moved.'
        : still > 1
          ? 'It is not known how they were lost; they may only have been moved.'
          : 'Occasionally they were only moved or renamed.',
  }
}
