import type { Case } from '../cases/case'
import { known } from '../cases/fact'
import { countOf } from '../cases/wanted'
import { HOUR_MS, isoOf } from '../cases/moment'
import { dayWords } from '../cases/words'
import { bindingsOf } from '../playbook/bind'
import type { Playbook } from '../playbook/playbook'
import { axesOf, type Axis } from './axis'
import { buildProblem } from './build-problem'
import { clamped, type Estimate } from './estimate'
import { holdKindOf, holdsOf } from './holds'
import { optionOf, type RouteOption } from './options'
import { bestOrder, stepGain } from './order'
import { PLAN_FORMAT, SAFETY, type Plan, type PlanHold, type PlanOption } from './plan-shape'
import { play, type Played } from './play'
import { MOST_STEPS } from './problem'
import { safetyCopyBefore } from './safety-copy'
import { situationOf, type Situation } from './situation'
import { standingOf, type Placed } from './standing'

/** What the plan expects of one wanted set, for the picture of what will come back. */
export interface SetForecast {
  readonly wanted: string
  /** number of items wanted, null where nobody knows */
  readonly of: number | null
  /** share that will probably be back in the end, what is back already included */
  readonly share: Estimate
  /** by slice: the same, mid only */
  readonly reached: readonly number[]
  /** edges of the slices in ms, empty where nobody knows when the items were made */
  readonly edges: readonly number[]
}

export interface FullPlan {
  readonly plan: Plan
  readonly sets: readonly SetForecast[]
  /** in money: the sum of gain − Q × cost − harm over the order */
  readonly value: number
}

/** How long the cost of waiting looks ahead. */
const WAIT_HOURS = 24

/**
 * The plan of a case: every route that could bring something, in the order that is worth most, with the
 * reasons. Pure: the same case, playbook and now (ms) give the same plan.
 */
export function fullPlanOf(ofCase: Case, playbook: Playbook, now: number): FullPlan {
  const situation = situationOf(ofCase, playbook, now)
  const axes = axesOf(ofCase, playbook.shop.weights)
  const options = withSafetyCopies(
    bindingsOf(ofCase, playbook).map((binding) => tried(optionOf(binding, axes, situation), situation)),
    axes,
    situation,
  )
  const { live, aside } = liveOptions(options, axes, situation)
  const problem = buildProblem(live, axes, playbook.shop, now)
  const best = bestOrder(problem)
  const played = ([0, 1, 2] as const).map((bound) =>
    play(bound === 1 ? problem : buildProblem(live, axes, playbook.shop, now, bound), best.steps),
  ) as unknown as [Played, Played, Played]
  const sets = axes.map((axis, index) => forecastOf(axis, offsetOf(axes, index), played))
  const order = best.steps.map((step) => live[step]!.id)
  const placed = new Map(live.map((option, index) => [option.id, { index, problem, order: best.steps, live }] as const))
  const shown = options
    .filter((option) => option.binding.kind.id !== SAFETY || order.includes(option.id) || option.closedBy !== null)
    .sort((one, other) => rank(one.id, order) - rank(other.id, order))
  return {
    plan: {
      format: PLAN_FORMAT,
      version: 1,
      now: isoOf(now),
      order,
      options: shown.map((option) => shownOption(option, axes, placed.get(option.id) ?? null, aside)),
      holds: planHolds(situation, live),
      questions: [],
      expected: {
        share: meanOf(sets),
        handsOn: sumOver(best.steps, played[1], (step) => live[step]!.handsOn),
        waiting: sumOver(best.steps, played[1], (step) => live[step]!.waiting),
        money: played[1].money + sumOver(best.steps, played[1], (step) => live[step]!.binding.kind.money.look),
      },
      waiting: costOfWaiting(live, axes, situation, { value: best.value, sets }),
    },
    sets,
    value: best.value,
  }
}

/** The plan alone, in the shape in which it is exchanged. */
export function planOf(ofCase: Case, playbook: Playbook, now: number): Plan {
  return fullPlanOf(ofCase, playbook, now).plan
}

const rank = (id: string, order: readonly string[]) => (order.includes(id) ? order.indexOf(id) : order.length)
const sumOver = (steps: readonly number[], played: Played, of: (step: number) => number) =>
  steps.reduce((sum, step, turn) => sum + played.needed[turn]! * of(step), 0)

/** An option that has been tried is closed by what came of it, unless it failed on a gate that is open now. */
function tried(option: RouteOption, { ofCase, playbook, now }: Situation): RouteOption {
  const last = ofCase.runs.findLast((run) => run.option === option.id && run.ended !== null)
  if (!last) return option
  const day = dayWords(Date.parse(last.ended!), playbook.shop.zone, now)
  if (last.failedOn) {
    const gate = option.chanceFactors.find((factor) => factor.name === last.failedOn)
    if (gate?.value[1] === 1) return option
    return {
      ...option,
      closedBy: `Tried on ${day}; it failed before it began (${last.failedOn.replaceAll('-', ' ')}). Change that fact to try again.`,
    }
  }
  const back = last.results.reduce((sum, result) => sum + result.back, 0)
  return { ...option, closedBy: `Tried on ${day}: ${back === 0 ? 'it brought nothing' : `it brought ${back}`}.` }
}

function withSafetyCopies(options: RouteOption[], axes: readonly Axis[], situation: Situation): RouteOption[] {
  const destructive = options.filter(
    (option) => option.binding.kind.effects.needsSafetyCopy && option.closedBy === null,
  )
  const copies = destructive.flatMap((option) => {
    const copy = safetyCopyBefore(option, axes, situation)
    return copy && copy.closedBy === null ? [tried(copy, situation)] : []
  })
  const distinct = [...new Map(copies.map((copy) => [copy.id, copy])).values()]
  const made = distinct.filter((copy) => copy.closedBy !== null)
  // A safety copy that has been made stays made: what it covers no longer does harm.
  const covered = options.map((option) =>
    made.some((copy) => copy.binding.device?.id === option.binding.device?.id) ? { ...option, harm: 0 } : option,
  )
  return [...covered, ...distinct]
}

/** The options that the order is sought among: those that can bring something, at most 14, the least valuable set aside. */
function liveOptions(options: readonly RouteOption[], axes: readonly Axis[], { playbook, now }: Situation) {
  const open = options.filter((option) => option.closedBy === null)
  const routes = open.filter((option) => option.binding.kind.id !== SAFETY)
  const safety = open.filter((option) => option.binding.kind.id === SAFETY)
  const room = MOST_STEPS - safety.length
  if (routes.length <= room) return { live: open, aside: new Set<string>() }
  const problem = buildProblem(routes, axes, playbook.shop, now)
  const alone = routes.map((option, index) => {
    const { gain, price } = stepGain(problem, [], index)
    return { option, value: gain - price }
  })
  const kept = new Set(
    [...alone]
      .sort((one, other) => other.value - one.value)
      .slice(0, room)
      .map(({ option }) => option.id),
  )
  return {
    live: open.filter((option) => option.binding.kind.id === SAFETY || kept.has(option.id)),
    aside: new Set(routes.filter((option) => !kept.has(option.id)).map((option) => option.id)),
  }
}

function shownOption(
  option: RouteOption,
  axes: readonly Axis[],
  placed: Placed | null,
  aside: ReadonlySet<string>,
): PlanOption {
  const { kind, copy } = option.binding
  const factors = [...option.chanceFactors, ...option.shareFactors]
  const isoOrNull = (time: number | null) => (time === null ? null : isoOf(Math.round(time)))
  const { standing, says } = standingOf(option, placed, aside, axes)
  return {
    id: option.id,
    kind: kind.id,
    family: kind.id === SAFETY ? SAFETY : kind.family,
    copy: copy?.id ?? null,
    title: option.title,
    standing,
    chance: bounded(option.chance),
    share: bounded(option.meanShare),
    expected: clamped(option.chance[1] * option.meanShare[1]),
    closes: [isoOrNull(option.window.earliest), isoOrNull(option.window.latest)],
    minutes: { handsOn: Math.round(option.handsOn), waiting: Math.round(option.waiting) },
    money: kind.money,
    harm: option.harm,
    reach: Object.fromEntries(
      axes.map((axis, set) => [axis.wanted.id, option.share[set]!.map((value) => clamped(value[1]))]),
    ),
    factors: factors.map((factor) => ({
      name: factor.name,
      value: factor.value[1],
      range: [factor.value[0], factor.value[2]],
      fact: factor.fact,
      says: factor.says,
    })),
    says,
  }
}

const bounded = (figure: Estimate): [number, number, number] => [
  clamped(figure[0]),
  clamped(figure[1]),
  clamped(figure[2]),
]

function planHolds(situation: Situation, live: readonly RouteOption[]): PlanHold[] {
  return holdsOf(situation)
    .map((hold) => ({
      id: hold.id,
      says: hold.says,
      from: [...hold.from],
      protects: live
        .filter(
          ({ binding }) =>
            binding.kind.holds.includes(holdKindOf(hold.id)) &&
            (hold.copies.length === 0 || (binding.copy !== null && hold.copies.includes(binding.copy.id))),
        )
        .map((option) => option.id),
    }))
    .filter((hold) => hold.protects.length > 0)
}

const offsetOf = (axes: readonly Axis[], index: number) =>
  axes.slice(0, index).reduce((sum, axis) => sum + axis.slices.length, 0)

function forecastOf(axis: Axis, offset: number, played: readonly [Played, Played, Played]): SetForecast {
  const inEnd = (bound: 0 | 1 | 2) =>
    axis.slices.map((slice, index) =>
      clamped(1 - slice.missing + slice.missing * played[bound].reached[offset + index]!),
    )
  const mean = (bound: 0 | 1 | 2) =>
    clamped(inEnd(bound).reduce((sum, share, index) => sum + share * axis.slices[index]!.mass, 0))
  return {
    wanted: axis.wanted.id,
    of: known(axis.wanted.count) ? countOf(axis.wanted) : null,
    share: [mean(0), mean(1), mean(2)],
    reached: inEnd(1),
    edges: axis.isDated ? [...axis.slices.map((slice) => slice.from), axis.slices.at(-1)!.to] : [],
  }
}

function meanOf(sets: readonly SetForecast[]): [number, number, number] {
  const mean = (bound: 0 | 1 | 2) =>
    sets.length === 0 ? 0 : sets.reduce((sum, set) => sum + set.share[bound], 0) / sets.length
  return [mean(0), mean(1), mean(2)]
}

/** What the best plan loses when it is begun a day later, with the same options and the same unknowns. */
function costOfWaiting(
  live: readonly RouteOption[],
  axes: readonly Axis[],
  { playbook, now }: Situation,
  today: { value: number; sets: readonly SetForecast[] },
): Plan['waiting'] {
  const later = buildProblem(live, axes, playbook.shop, now + WAIT_HOURS * HOUR_MS)
  const best = bestOrder(later)
  const played = play(later, best.steps)
  const tomorrow = axes.map((axis, index) => forecastOf(axis, offsetOf(axes, index), [played, played, played]))
  const items = axes.map(
    (axis, index) =>
      [
        axis.wanted.id,
        Math.max(0, (today.sets[index]!.share[1] - tomorrow[index]!.share[1]) * countOf(axis.wanted)),
      ] as const,
  )
  return { hours: WAIT_HOURS, money: Math.max(0, today.value - best.value), items: Object.fromEntries(items) }
}
