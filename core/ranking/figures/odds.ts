import QuickLRU from 'quick-lru'
import betaQuantile from '@stdlib/stats-base-dists-beta-quantile'
import type { RouteKind } from '../../playbook/kinds/route-kind'
import type { Estimate } from '../situation/estimate'
import { gateTally, NO_EVIDENCE, routeTallies, type Evidence } from '../situation/evidence'

/** The displayed range contains the true figure four times out of five. */
const LOW = 0.1
const HIGH = 0.9

/**
 * What was learned one level up counts as at most this many runs one level down, so that a device of its own kind can
 * differ.
 */
const MAX_CARRIED = 24

/** How many runs a gate's prior counts for. */
const GATE_WEIGHT = 10

/** A Beta distribution by its mean, and by how many runs it counts for. */
export interface Odds {
  readonly chance: number
  /** in runs */
  readonly weight: number
}

/** What the odds are for: a kind of route on a platform family, for a type of data. */
export interface OddsAsked {
  readonly platform: string
  readonly type: string
}

/**
 * How likely a kind of route works when everything is in place: the mean of its Beta distribution and the
 * range between its 10 % and 90 % quantiles. The playbook's prior is updated by the kind's runs elsewhere,
 * that by its runs on this platform, and that by its runs on this platform for this type of data; each
 * run counts once (Beta-binomial shrinkage; A. Gelman et al., Bayesian Data Analysis, 3rd ed., §5.3).
 */
export function oddsOf(
  kind: Pick<RouteKind, 'id' | 'prior'>,
  asked: OddsAsked = { platform: 'unknown', type: 'unknown' },
  evidence: Evidence = NO_EVIDENCE,
): Estimate {
  const { chance, weight } = kind.prior
  if (chance <= 0 || chance >= 1) return [chance, chance, chance]
  if (!evidence.routes[kind.id]) return priorRange(kind.prior)
  const learned = routeTallies(evidence, kind.id, asked.platform, asked.type).reduce<Odds>(
    (so, { runs, came }) => updated({ chance: so.chance, weight: Math.min(so.weight, MAX_CARRIED) }, runs, came),
    { chance, weight },
  )
  return rangeOf(learned)
}

/** The odds of a kind of route over all devices and types of data, after so many runs of which so much came back. */
export function oddsAfter(prior: Odds, runs: number, came: number): Estimate {
  const { chance } = prior
  return chance <= 0 || chance >= 1 ? [chance, chance, chance] : rangeOf(updated(prior, runs, came))
}

/** The chance that a gate of this kind is met while that is unknown, updated by outcomes. */
export function gatePriorOf(kind: string, gate: string, prior: Estimate, evidence: Evidence): Estimate {
  const { runs, came } = gateTally(evidence, kind, gate)
  if (runs === 0 || prior[1] <= 0 || prior[1] >= 1) return prior
  return rangeOf(updated({ chance: prior[1], weight: GATE_WEIGHT }, runs, came))
}

/** The distribution after so many more runs, of which so much came back. */
export const updated = ({ chance, weight }: Odds, runs: number, came: number): Odds => ({
  chance: (chance * weight + came) / (weight + runs),
  weight: weight + runs,
})

const priors = new WeakMap<RouteKind['prior'], Estimate>()

function priorRange(prior: RouteKind['prior']): Estimate {
  const range = priors.get(prior) ?? rangeOf(prior)
  priors.set(prior, range)
  return range
}

const ranges = new QuickLRU<string, Estimate>({ maxSize: 5000 })

function rangeOf({ chance, weight }: Odds): Estimate {
  const key = `${chance}|${weight}`
  const kept = ranges.get(key)
  if (kept) return kept
  const alpha = chance * weight
  const beta = (1 - chance) * weight
  // A very skewed distribution can have its mean outside of the quantiles; the range always holds the figure.
  const range: Estimate = [
    Math.min(chance, betaQuantile(LOW, alpha, beta)),
    chance,
    Math.max(chance, betaQuantile(HIGH, alpha, beta)),
  ]
  ranges.set(key, range)
  return range
}
