/** A figure with its range: low, mid, high. */
export type Estimate = readonly [low: number, mid: number, high: number]

/** A figure that is known for certain. */
export function certain(value: number): Estimate {
  return [value, value, value]
}

export const ONE: Estimate = certain(1)
export const ZERO: Estimate = certain(0)

/** The product of the figures, low with low, mid with mid, high with high. */
export function product(...figures: readonly Estimate[]): Estimate {
  let low = 1
  let mid = 1
  let high = 1
  for (const figure of figures) {
    low *= figure[0]
    mid *= figure[1]
    high *= figure[2]
  }
  return [low, mid, high]
}

/** A figure held within 0 and 1. */
export function clamped(value: number): number {
  return Math.min(1, Math.max(0, value))
}
