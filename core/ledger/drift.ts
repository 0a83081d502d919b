import gammaln from '@stdlib/math-base-special-gammaln'
import { z } from 'zod'
import { updated, type Odds } from '../ranking/figures/odds'

/** That the latest runs of a kind disagree with what its odds were before them. */
export const Drift = z.object({
  /** ms: when the first of these runs ended */
  since: z.number(),
  runs: z.int(),
  /** how much came back of them, in runs */
  came: z.number(),
  /** how much the odds before them had promised, in runs */
  expected: z.number(),
})
export type Drift = z.infer<typeof Drift>

/** A counted run of one kind: when it ended (ms), and how much came back. */
export interface Lesson {
  readonly ended: number
  readonly came: number
}

/** A change is searched for among so many of the latest runs; fewer than MIN_RUNS show none. */
const MAX_RUNS = 60
const MIN_RUNS = 5
/** The change that is searched for, and how closely: a Beta distribution that counts for so many runs. */
const SHIFT = 0.3
const CLOSENESS = 80
/** How likely a change is one for the worse. */
const WORSE = 0.8
/**
 * How many times likelier the latest runs must be after a change than without one, as a logarithm. Set by simulation, so
 * that of kinds whose odds stay the same fewer than 1 in 20 are flagged in a year of 5,000 runs (docs/decisions/0045).
 */
const ENOUGH = 5.6

/**
 * Whether the latest runs disagree with the odds, oldest run first; null where they do not. For each number of latest runs it
 * compares how likely they are under the odds before them (a Beta-binomial distribution) with how likely they are if the odds had
 * moved by 0.3 since (Bayes factor; R. Kass and A. Raftery, JASA 90, 1995), and takes the number that speaks most for a change.
 */
export function driftOf(prior: Odds, lessons: readonly Lesson[]): Drift | null {
  if (prior.chance <= 0 || prior.chance >= 1) return null
  const total = lessons.reduce((sum, { came }) => sum + came, 0)
  let best: { factor: number; drift: Drift } | null = null
  let came = 0
  const first = Math.max(0, lessons.length - MAX_RUNS)
  for (let at = lessons.length - 1; at >= first; at--) {
    came += lessons[at]!.came
    const runs = lessons.length - at
    if (runs < MIN_RUNS) continue
    const before = updated(prior, at, total - came)
    const factor = changed(before, runs, came) - likely(before.chance, before.weight, runs, came)
    if (factor > (best?.factor ?? ENOUGH))
      best = { factor, drift: { since: lessons[at]!.ended, runs, came, expected: runs * before.chance } }
  }
  return best?.drift ?? null
}

/** How likely these runs are if the odds moved down or up before them, as a logarithm. */
function changed({ chance }: Odds, runs: number, came: number): number {
  const worse = Math.log(WORSE) + likely(within(chance - SHIFT), CLOSENESS, runs, came)
  const better = Math.log(1 - WORSE) + likely(within(chance + SHIFT), CLOSENESS, runs, came)
  const larger = Math.max(worse, better)
  return larger + Math.log(Math.exp(worse - larger) + Math.exp(better - larger))
}

const within = (chance: number) => Math.min(0.97, Math.max(0.03, chance))

/** How likely one series of runs with so many successes is under a Beta distribution, as a logarithm. */
function likely(chance: number, weight: number, runs: number, came: number): number {
  const [alpha, beta] = [chance * weight, (1 - chance) * weight]
  return logBeta(alpha + came, beta + runs - came) - logBeta(alpha, beta)
}

const logBeta = (a: number, b: number) => gammaln(a) + gammaln(b) - gammaln(a + b)
