import type { Case } from '../../cases/shape/case'
import { known } from '../../cases/shape/fact'
import { DAY_MS, spanOf, type Span } from '../../cases/shape/moment'
import { undamagedOf } from '../../cases/shape/run'
import { countOf, type WantedSet } from '../../cases/shape/wanted'
import type { Weights } from '../../playbook/shop'
import { clamped } from './estimate'
import { shareAfter } from './spread'

/** One slice of the time in which the items of a wanted set were made. */
export interface Slice extends Span {
  /** share of the set's items that were made in it, 0 to 1 */
  readonly mass: number
  /** share of those that are not back yet, 0 to 1 */
  readonly missing: number
  /** what having the missing ones back is worth, in money */
  readonly worth: number
}

export interface Axis {
  readonly wanted: WantedSet
  /** false where it is not known when the items were created: then there is one slice */
  readonly isDated: boolean
  readonly slices: readonly Slice[]
}

const USUAL_SLICES = 24
const MIN_SLICES = 16
const MAX_SLICES = 40

/** One slice a day where that gives 16 to 40 of them, else 24. */
function sliceCount(made: Span): number {
  const days = Math.round((made.to - made.from) / DAY_MS)
  return days >= MIN_SLICES && days <= MAX_SLICES ? days : USUAL_SLICES
}

/**
 * The axes of all wanted sets, with what is still missing in each slice and its worth in money. The
 * worth of everything is the client's or the shop's figure; each set weighs alike, must-have items
 * weigh more by the shop's factor.
 */
export function axesOf(ofCase: Case, weights: Weights): Axis[] {
  const raw = ofCase.wanted.map((set) => {
    const slices = cut(set)
    return { set, cut: slices, masses: massesOf(set, slices), isDated: isDated(set) }
  })
  const weightOf = (set: WantedSet, slice: Span, mass: number) =>
    mass * (1 + (weights.mustHave - 1) * mustHaveShare(set, slice))
  const whole = raw.reduce(
    (sum, { set, cut: slices, masses }) =>
      sum + slices.reduce((inner, slice, index) => inner + weightOf(set, slice, masses[index]!), 0),
    0,
  )
  const worth = worthOf(ofCase, weights)
  return raw.map(({ set, cut: slices, masses, isDated: dated }) => {
    const missing = missingBySlice(ofCase, set, masses)
    return {
      wanted: set,
      isDated: dated,
      slices: slices.map((slice, index) => {
        const mass = masses[index]!
        const share = whole > 0 ? weightOf(set, slice, mass) / whole : 0
        return { ...slice, mass, missing: missing[index]!, worth: worth * share * missing[index]! }
      }),
    }
  })
}

/**
 * What having everything back is worth, in money: as the client says; else by the sum that they can spend, which says
 * more than a word for it; else the shop's figure by the effort that it is worth to them.
 */
export function worthOf({ limits }: Case, weights: Weights): number {
  if (known(limits.worth)) return limits.worth
  if (known(limits.money)) return Math.max(weights.worth, limits.money * WORTH_OF_A_SUM)
  return known(limits.budget) ? weights.worth * weights[BUDGET_WEIGHT[limits.budget]] : weights.worth
}

/** Who can spend a sum has what is worth more than that. */
const WORTH_OF_A_SUM = 1.5

const BUDGET_WEIGHT = { little: 'littleBudget', usual: 'usualBudget', whatever: 'wholeBudget' } as const

/** The share of the set's items in each slice: even, except where it is said that more of them are in a part of the time. */
function massesOf({ spread }: WantedSet, slices: readonly Span[]): number[] {
  const even = 1 / slices.length
  if (!known(spread)) return slices.map(() => even)
  const masses = slices.map(() => 0)
  let placed = 0
  for (const { made, share } of spread) {
    const range = spanOf(made)
    const within = slices.map((slice) => Math.max(0, Math.min(slice.to, range.to) - Math.max(slice.from, range.from)))
    const whole = within.reduce((sum, part) => sum + part, 0)
    if (whole === 0) continue
    placed += share
    for (const [index, part] of within.entries()) masses[index]! += (share * part) / whole
  }
  if (placed > 1) return masses.map((mass) => mass / placed)
  return masses.map((mass) => mass + (1 - placed) * even)
}

function isDated(set: WantedSet): boolean {
  return known(set.made) && Date.parse(set.made.to) > Date.parse(set.made.from)
}

function cut(set: WantedSet): Span[] {
  if (!known(set.made)) return [{ from: 0, to: 0 }]
  const made = spanOf(set.made)
  if (made.to === made.from) return [made]
  const count = sliceCount(made)
  const edge = (index: number) => made.from + ((made.to - made.from) * index) / count
  return Array.from({ length: count }, (_, index) => ({ from: edge(index), to: edge(index + 1) }))
}

/** The must-have share of a slice. */
function mustHaveShare(set: WantedSet, slice: Span): number {
  if (!known(set.mustHave) || set.mustHave === 'none') return 0
  if (set.mustHave === 'all') return 1
  const range = spanOf(set.mustHave)
  if (slice.to === slice.from) return range.from <= slice.from && slice.from <= range.to ? 1 : 0
  return clamped(shareAfter(slice, range.from) - shareAfter(slice, range.to))
}

/**
 * The share of each slice that no run has brought back undamaged. A run's items are assigned to the slices that it was
 * expected to reach; what does not fit there goes to the other slices.
 */
function missingBySlice(ofCase: Case, set: WantedSet, masses: readonly number[]): number[] {
  const count = masses.length
  const missing = masses.map(() => 1)
  for (const run of ofCase.runs) {
    const sound = run.results
      .filter((result) => result.wanted === set.id)
      .reduce((sum, result) => sum + undamagedOf(result), 0)
    if (sound === 0) continue
    const reach = run.predicted?.reach[set.id]
    const fits = reach?.length === count ? reach : null
    const share = known(set.count) ? Math.min(1, sound / countOf(set)) : (run.predicted?.share ?? 0.5)
    const left = lay(missing, share, fits ?? missing, masses)
    if (left > 1e-9) lay(missing, left, missing.slice(), masses)
  }
  return missing
}

/** Takes `amount`, a share of the whole set, away in proportion to `weights`, never more than is there; returns the rest. */
function lay(missing: number[], amount: number, weights: readonly number[], masses: readonly number[]): number {
  let rest = amount
  for (let round = 0; round < missing.length && rest > 1e-9; round++) {
    const open = missing.map((value, index) =>
      value > 0 ? Math.min(value, weights[index]! * value) * masses[index]! : 0,
    )
    const sum = open.reduce((total, value) => total + value, 0)
    if (sum <= 0) return rest
    let taken = 0
    for (const [index, value] of open.entries()) {
      const mass = masses[index]!
      if (mass === 0) continue
      const part = Math.min(missing[index]!, (rest * value) / sum / mass)
      missing[index] = missing[index]! - part < 1e-9 ? 0 : missing[index]! - part
      taken += part * mass
    }
    rest -= taken
  }
  return Math.max(0, rest)
}
