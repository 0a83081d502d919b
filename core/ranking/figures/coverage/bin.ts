import { DELETIONS } from '../../../cases/shape/loss'
import { flat, type CoverageRule } from './coverage-rule'
import { binOdds } from './shares'

/** What was deleted passes through the bin. */
export const bin: CoverageRule<'bin'> = (_binding, _brings, axis, { ofCase: { loss } }) => ({
  bySlice: flat(axis, binOdds(loss.how)),
  fact: 'loss.how',
  says: () => WORDS[loss.how] ?? (DELETIONS.includes(loss.how) ? WORDS.deleted! : 'They did not go through a bin.'),
})

const WORDS: Record<string, string> = {
  deleted: 'An ordinary deletion goes through the bin.',
  'deleted-past-bin': 'They were deleted past the bin, or from it.',
  'bin-emptied': 'The bin that had them was emptied.',
  'sync-switched': 'Switching sync puts them into a bin now and then.',
  unknown: 'If they were deleted in the ordinary way, they went through the bin.',
}
