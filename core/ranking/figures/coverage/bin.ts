import { DELETIONS } from '../../../cases/shape/loss'
import { flat, type CoverageRule } from './coverage-rule'
import { binOdds } from './shares'

/** What was deleted passes through the bin. */
export const bin: CoverageRule<'bin'> = (_binding, _brings, axis, { ofCase: { loss } }) => ({
  bySlice: flat(axis, binOdds(loss.how)),
  fact: 'loss.how',
  says: () =>
    loss.how === 'deleted-past-bin'
      ? 'They were deleted past the bin, or from it.'
      : DELETIONS.includes(loss.how)
        ? 'An ordinary deletion goes through the bin.'
        : loss.how === 'unknown'
          ? 'If they were deleted in the ordinary way, they went through the bin.'
          : 'They did not go through a bin.',
})
