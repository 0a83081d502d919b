import { z } from 'zod'

/** A run that was predicted, and what came of it, both from 0 to 1. */
export interface Promised {
  readonly chance: number
  readonly came: number
}

/** One tenth of the predicted chances: how many runs, what was predicted, what came, and where chance alone would put it. */
export const Lamp = z.object({
  /** 0 for chances under 10 %, 9 for those from 90 % */
  tenth: z.int(),
  count: z.int(),
  /** means, 0 to 1; 0 where there are no runs */
  predicted: z.number(),
  actual: z.number(),
  bracket: z.tuple([z.number(), z.number()]).readonly(),
  isKept: z.boolean(),
})
export type Lamp = z.infer<typeof Lamp>

/**
 * How sure the bracket is: of shops whose predictions are right, one in twenty has a lamp outside of its bracket in a year.
 * At 95 % it would be two in five.
 */
const SURE = 0.995

export const tenthOf = (chance: number): number => Math.min(9, Math.max(0, Math.floor(chance * 10 + 1e-9)))

/** Predicted against actual in ten bins of the predicted chance. */
export function lampsOf(promised: readonly Promised[]): Lamp[] {
  const bins: Promised[][] = Array.from({ length: 10 }, () => [])
  for (const one of promised) bins[tenthOf(one.chance)]!.push(one)
  return bins.map((bin, tenth) => {
    const count = bin.length
    if (count === 0) return { tenth, count, predicted: 0, actual: 0, bracket: [0, 1] as const, isKept: true }
    const came = bin.reduce((sum, one) => sum + one.came, 0)
    const [low, high] = bracketOf(bin.map(({ chance }) => chance))
    return {
      tenth,
      count,
      predicted: bin.reduce((sum, one) => sum + one.chance, 0) / count,
      actual: came / count,
      bracket: [low / count, high / count] as const,
      // Sums of fractions come out a little beside the whole number that they are.
      isKept: came >= low - 1e-9 && came <= high + 1e-9,
    }
  })
}

/** More than this many are near enough to a normal distribution, and the exact one takes the square of their number. */
const MAX_EXACT = 1500

/**
 * Between which counts so many independent events with these chances end, all but `1 − SURE` of the time: quantiles of the
 * Poisson binomial distribution (Y. Hong, Computational Statistics & Data Analysis 59, 2013). Runs of which only a part came
 * back vary less than that.
 */
export function bracketOf(chances: readonly number[]): readonly [low: number, high: number] {
  const tail = (1 - SURE) / 2
  if (chances.length > MAX_EXACT) return normalBracket(chances)
  // likely[k]: how likely k of those so far happen
  let likely = new Float64Array([1])
  for (const chance of chances) {
    const next = new Float64Array(likely.length + 1)
    for (let k = 0; k < likely.length; k++) {
      next[k]! += likely[k]! * (1 - chance)
      next[k + 1]! += likely[k]! * chance
    }
    likely = next
  }
  let [low, below] = [0, likely[0]!]
  while (below < tail && low < chances.length) below += likely[++low]!
  let [high, above] = [chances.length, likely[chances.length]!]
  while (above < tail && high > 0) above += likely[--high]!
  return [low, high]
}

/** Of the normal distribution beyond which 0.25 % lie. */
const Z_9975 = 2.807

function normalBracket(chances: readonly number[]): readonly [number, number] {
  const mean = chances.reduce((sum, chance) => sum + chance, 0)
  const deviation = Math.sqrt(chances.reduce((sum, chance) => sum + chance * (1 - chance), 0))
  const reach = Z_9975 * deviation + 0.5
  return [Math.max(0, Math.floor(mean - reach)), Math.min(chances.length, Math.ceil(mean + reach))]
}
