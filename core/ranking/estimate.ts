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
  return figures.reduce<Estimate>((so, next) => [so[0] * next[0], so[1] * next[1], so[2] * next[2]], ONE)
}

/** A mixture: the first with probability `weight`, else the second. */
export function mixed(weight: number, one: Estimate, other: Estimate): Estimate {
  const at = (index: 0 | 1 | 2) => weight * one[index] + (1 - weight) * other[index]
  return [at(0), at(1), at(2)]
}

/** A figure held within 0 and 1. */
export function clamped(value: number): number {
  return Math.min(1, Math.max(0, value))
}
