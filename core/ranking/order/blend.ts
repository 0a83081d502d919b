import type { Estimate } from '../situation/estimate'
import type { Factor } from '../figures/factor'
import type { RouteOption } from '../figures/options'

/** An option's figures over everything unknown, as they are shown. */
export interface Blended {
  readonly chance: Estimate
  /** given that it can be carried out */
  readonly meanShare: Estimate
  /** by wanted set and slice, given that it can be carried out; mid only */
  readonly reach: readonly (readonly number[])[]
  /** they multiply to chance times share */
  readonly factors: readonly Factor[]
}

interface Variant {
  readonly probability: number
  readonly option: RouteOption
}

/**
 * The mean over the joint states, in factors: each is the conditional chance given those before it, so
 * that they multiply to the mean of the product and not to the product of means. The ranges are those
 * of the facts as stated.
 */
export function blended(told: RouteOption, variants: readonly Variant[]): Blended {
  const chances = running(told.chanceFactors, (index) =>
    mean(variants, ({ option }) => prefix(option.chanceFactors, index)),
  )
  const chance = chances.total
  const shares = running(
    told.shareFactors(),
    (index) => {
      const stage = told.stages.length - told.shareFactors().length
      // Where nothing is on a medium, survival is left out of the reasons; it is 1 in the stages.
      const at = stage > 0 && index >= 2 ? index + stage : index
      return mean(variants, ({ option }) => option.chance[1] * (option.stages[at]?.[1] ?? 0))
    },
    chance,
  )
  return {
    chance: around(told.chance, chance),
    meanShare: around(told.meanShare, chance > 0 ? shares.total / chance : told.meanShare[1]),
    reach: told.share.map((bySlice, set) =>
      bySlice.map((value, slice) =>
        chance > 0
          ? mean(variants, ({ option }) => option.chance[1] * option.share[set]![slice]![1]) / chance
          : value[1],
      ),
    ),
    factors: [...chances.factors, ...shares.factors],
  }
}

function running(factors: readonly Factor[], product: (index: number) => number, before = 1) {
  let last = before
  const shown = factors.map((factor, index): Factor => {
    const so = product(index)
    const value = last > 0 ? so / last : factor.value[1]
    last = so
    return {
      name: factor.name,
      fact: factor.fact,
      value: around(factor.value, value),
      says: factor.says,
    }
  })
  return { factors: shown, total: factors.length > 0 ? last : before }
}

const prefix = (factors: readonly Factor[], last: number) => {
  let so = 1
  for (let index = 0; index <= last; index++) so *= factors[index]?.value[1] ?? 1
  return so
}

const mean = (variants: readonly Variant[], of: (variant: Variant) => number) =>
  variants.reduce((sum, variant) => sum + variant.probability * of(variant), 0)

const around = (range: Estimate, value: number): Estimate => [
  Math.min(range[0], value),
  value,
  Math.max(range[2], value),
]
