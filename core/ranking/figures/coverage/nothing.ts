import { ZERO } from '../../situation/estimate'
import { flat, type CoverageRule } from './coverage-rule'

/** It holds none, and is listed so that nobody spends an hour on it. */
export const nothing: CoverageRule<'nothing'> = (binding, _brings, axis) => ({
  bySlice: flat(axis, ZERO),
  fact: null,
  says: () => binding.kind.says,
})
