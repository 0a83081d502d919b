import { flat, type CoverageRule } from './coverage-rule'

/** What a fresh system keeps of the one before it, where it keeps that at all. */
export const keptFolder: CoverageRule<'kept-folder'> = (_binding, { share }, axis) => ({
  bySlice: flat(axis, share),
  fact: 'loss.how',
  says: () => 'An installation that keeps the old system’s folder keeps nearly all of it.',
})
