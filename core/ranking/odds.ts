import betaQuantile from '@stdlib/stats-base-dists-beta-quantile'
import type { RouteKind } from '../playbook/route-kind'
import type { Estimate } from './estimate'

/** The range that is shown holds the true figure four times out of five. */
const LOW = 0.1
const HIGH = 0.9

/**
 * How likely a kind of route works when everything is in place: the mean of its Beta distribution and
 * the range between its 10 % and 90 % quantiles. The prior counts as `weight` runs.
 */
export function oddsOf(kind: Pick<RouteKind, 'prior'>): Estimate {
  const { chance, weight } = kind.prior
  if (chance <= 0 || chance >= 1) return [chance, chance, chance]
  const alpha = chance * weight
  const beta = (1 - chance) * weight
  // A very skewed distribution can have its mean outside of the quantiles; the range always holds the figure.
  return [Math.min(chance, betaQuantile(LOW, alpha, beta)), chance, Math.max(chance, betaQuantile(HIGH, alpha, beta))]
}
