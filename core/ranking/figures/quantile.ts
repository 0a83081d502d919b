import type { Estimate } from '../situation/estimate'

/** A figure with its chance. */
export interface Weighted {
  readonly probability: number
  readonly value: number
}

/**
 * Mean of weighted figures, between their 10 % and 90 % quantiles: the figure below which so much of the
 * probability lies. Null where nothing has any probability.
 */
export function spreadOf(figures: readonly Weighted[]): Estimate | null {
  const whole = figures.reduce((sum, figure) => sum + figure.probability, 0)
  if (whole <= 0) return null
  const sorted = [...figures].sort((one, other) => one.value - other.value)
  const mean = figures.reduce((sum, figure) => sum + figure.probability * figure.value, 0) / whole
  const at = (part: number) => {
    let so = 0
    for (const figure of sorted) {
      so += figure.probability / whole
      if (so >= part - 1e-12) return figure.value
    }
    return sorted.at(-1)!.value
  }
  return [Math.min(mean, at(0.1)), mean, Math.max(mean, at(0.9))]
}
