import type { CoverageRule } from './coverage-rule'
import { syncedCoverage } from './synced'

/** Earlier versions of what had synced. */
export const versions: CoverageRule<'versions'> = (binding, _brings, axis, situation) =>
  syncedCoverage(binding, axis, situation)
