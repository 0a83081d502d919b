import type { Built } from '../order/build-problem'
import { outcomeOf } from '../order/outcome'
import { play } from '../order/play'
import type { Policy } from '../order/policy'
import type { Axis } from '../situation/axis'
import type { SetForecast } from '../situation/plan-shape'
import { forecastsOf, meanShareOf } from './forecast'

/** Branches of a plan that are less likely than this are not played further: they move no figure that is shown. */
export const LEAST = 1e-6

/** What following a policy comes to, by wanted set, at the middle of the odds. */
export function expectedOf(built: Built, next: Policy['next'], axes: readonly Axis[]): SetForecast[] {
  const outcome = outcomeOf(built, play(built.problem, next, LEAST))
  return forecastsOf(axes, { low: outcome, mid: outcome, high: outcome })
}

/** The mean of that over the wanted sets, as a share: low, middle, high. */
export const expectedShareOf = (...asked: Parameters<typeof expectedOf>) => meanShareOf(expectedOf(...asked))
