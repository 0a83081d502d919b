import { known } from '../../cases/shape/fact'
import { countOf } from '../../cases/shape/wanted'
import type { SetForecast } from '../situation/plan-shape'
import type { Axis } from '../situation/axis'
import { clamped } from '../situation/estimate'
import type { Outcome } from '../order/outcome'
import { spreadOf } from '../figures/quantile'

/** What comes of a plan at the low, middle and high end of its ranges, slice by slice. */
export interface OutcomeRange {
  readonly low: Outcome
  readonly mid: Outcome
  readonly high: Outcome
}

/** Forecasts of all wanted sets, each over its own part of the slices. */
export function forecastsOf(axes: readonly Axis[], outcome: OutcomeRange): SetForecast[] {
  let offset = 0
  return axes.map((axis) => {
    const forecast = forecastOf(axis, offset, outcome)
    offset += axis.slices.length
    return forecast
  })
}

/**
 * The final share: its middle is the mean over the joint states; it ranges from the low tenth of the states at the low
 * end of the odds to the high tenth at their high end, so that an unknown deciding fact keeps the range wide.
 */
function forecastOf(axis: Axis, offset: number, { low, mid, high }: OutcomeRange): SetForecast {
  const inEnd = (reached: readonly number[]) =>
    axis.slices.map((slice, index) => clamped(1 - slice.missing + slice.missing * reached[offset + index]!))
  const share = (reached: readonly number[]) =>
    clamped(inEnd(reached).reduce((sum, one, index) => sum + one * axis.slices[index]!.mass, 0))
  const middle = share(mid.reached)
  const over = ({ byState }: Outcome) =>
    spreadOf(byState.map(({ probability, reached }) => ({ probability, value: share(reached) })))
  return {
    wanted: axis.wanted.id,
    of: known(axis.wanted.count) ? countOf(axis.wanted) : null,
    back: clamped(axis.slices.reduce((sum, { mass, missing }) => sum + mass * (1 - missing), 0)),
    share: [Math.min(middle, over(low)?.[0] ?? middle), middle, Math.max(middle, over(high)?.[2] ?? middle)],
    reached: inEnd(mid.reached),
    edges: axis.isDated ? [...axis.slices.map((slice) => slice.from), axis.slices.at(-1)!.to] : [],
  }
}

/** Mean over the wanted sets, with equal weights. */
export function meanShareOf(sets: readonly SetForecast[]): [number, number, number] {
  const mean = (bound: 0 | 1 | 2) =>
    sets.length === 0 ? 0 : sets.reduce((sum, set) => sum + set.share[bound], 0) / sets.length
  return [mean(0), mean(1), mean(2)]
}
