import type { Estimate } from '../../situation/estimate'
import { flat, type CoverageRule } from './coverage-rule'

/** What the app saved by itself. */
export const autosave: CoverageRule<'autosave'> = (_binding, _brings, axis, { ofCase: { loss } }) => {
  const value: Estimate =
    loss.how === 'crashed-before-saving'
      ? [0.5, 0.75, 0.9]
      : loss.how === 'saved-over'
        ? [0.1, 0.25, 0.5]
        : loss.how === 'unknown'
          ? [0.05, 0.15, 0.3]
          : [0.01, 0.03, 0.1]
  return {
    bySlice: flat(axis, value),
    fact: 'loss.how',
    says: () =>
      loss.how === 'crashed-before-saving'
        ? 'After a crash the last automatic copy is usually there.'
        : 'The folder is cleared when the program closes normally.',
  }
}
