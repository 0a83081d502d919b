import type { Estimate } from '../../situation/estimate'
import { overCauses } from '../half-known'
import { flat, type CoverageRule } from './coverage-rule'

/** How often what was lost in such a way was only moved or named anew, as a multiple of the usual figure. */
const OFTEN: Record<string, number> = {
  'deleted-singly': 1,
  'deleted-in-bulk': 1,
  'deleted-past-bin': 0.5,
  'crashed-before-saving': 1,
  // Saved under another name, or into another folder.
  'saved-over': 2,
  // Another account, another view, or a copy that this device only dropped.
  'sync-switched': 5,
  'app-removed': 2,
}

/** What was only moved. */
export const place: CoverageRule<'place'> = (_binding, { share }, axis, { ofCase }) => {
  const often = overCauses(ofCase, (how) => OFTEN[how] ?? 0)
  const value: Estimate = [
    Math.min(0.6, share[0] * often),
    Math.min(0.7, share[1] * often),
    Math.min(0.8, share[2] * often),
  ]
  return {
    bySlice: flat(axis, value),
    fact: 'loss.how',
    says: () =>
      often === 0
        ? 'They were not just moved.'
        : ofCase.loss.how === 'unknown'
          ? 'It is not known how they were lost; they may only have been moved.'
          : often > 2
            ? 'They may still be there, in another account or view.'
            : 'Occasionally they were only moved or renamed.',
  }
}
