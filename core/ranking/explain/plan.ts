import type { Case } from '../../cases/shape/case'
import { isoOf } from '../../cases/shape/moment'
import type { Playbook } from '../../playbook/playbook'
import { blended, type Blended } from '../order/blend'
import { consider, type Considered } from './consider'
import { clamped, type Estimate } from '../situation/estimate'
import { toFirstSuccess, toStop } from '../order/estimates'
import type { Evidence } from '../situation/evidence'
import { forecastsOf, meanShareOf } from './forecast'
import { holdKindOf, holdsOf, holdWords } from './holds'
import type { RouteOption } from '../figures/options'
import { overrideOf } from './override'
import {
  CONSENT,
  PLAN_FORMAT,
  SAFETY,
  type FullPlan,
  type Plan,
  type PlanHold,
  type PlanOption,
} from '../situation/plan-shape'
import { playBuilt } from '../order/play'
import { isPreparation } from '../order/preparations'
import { questionsOf } from './questions'
import { sensitivityOf } from './sensitivity'
import { standingOf } from './standing'
import { holdsUntil } from '../figures/until'
import { costOfWaiting } from './waiting'

/** What a plan is made from besides the case and the playbook. */
export interface PlanAsked {
  /** what the shop's own runs have taught; nothing where missing */
  readonly evidence?: Evidence
  /** 'order' leaves out questions and sensitivity, which take longer than the order itself */
  readonly depth?: 'order' | 'whole'
}

/**
 * The plan of a case: every route that could bring something, in the order that is worth most, with the
 * reasons. Pure: the same case, playbook, now (ms) and evidence give the same plan.
 */
export function fullPlanOf(ofCase: Case, playbook: Playbook, now: number, asked: PlanAsked = {}): FullPlan {
  const considered = consider(ofCase, playbook, now, asked.evidence)
  const { live, best, built, joint, axes, situation, options } = considered
  const played = {
    low: playBuilt(considered.builtAt(now, 0), best.steps),
    mid: playBuilt(built, best.steps),
    high: playBuilt(considered.builtAt(now, 2), best.steps),
  }
  const sets = forecastsOf(axes, played)
  const order = best.steps.map((step) => live[step]!.id)
  const shown = options
    .filter((option) => !isPreparation(option) || order.includes(option.id) || option.closedBy !== null)
    .sort((one, other) => rank(one.id, order) - rank(other.id, order))
  const prices = best.steps.map((step) => {
    const { handsOn, waiting, binding } = live[step]!
    return { handsOn, waiting, look: binding.kind.money.look }
  })
  const sum = (of: (price: (typeof prices)[number], turn: number) => number) =>
    prices.reduce((so, price, turn) => so + played.mid.needed[turn]! * of(price, turn), 0)
  const isWhole = asked.depth !== 'order'
  return {
    plan: {
      format: PLAN_FORMAT,
      version: 1,
      now: isoOf(now),
      order,
      options: shown.map((option) => shownOption(option, considered)),
      holds: planHolds(considered),
      questions: isWhole ? questionsOf(considered) : [],
      expected: {
        share: meanShareOf(sets),
        handsOn: sum((price) => price.handsOn),
        waiting: sum((price) => price.waiting),
        money: sum((price) => price.look) + played.mid.taken.reduce((so, one) => so + one, 0),
        first: mutable(toFirstSuccess(played.mid, prices)),
        stop: mutable(toStop(played.mid, prices)),
      },
      waiting: costOfWaiting(considered, { value: best.value, sets }),
      states: {
        count: joint.states.length,
        facts: joint.dimensions.map((one) => one.unknown.fact),
        folded: [...joint.folded],
      },
      sensitivity: isWhole ? sensitivityOf(considered) : null,
      until: isoOf(Math.round(holdsUntil(options, situation))),
    },
    sets,
    value: best.value,
    override: ofCase.override ? overrideOf(considered, ofCase.override.order) : null,
  }
}

/** The plan alone, in the shape in which it is exchanged. */
export function planOf(ofCase: Case, playbook: Playbook, now: number, asked: PlanAsked = {}): Plan {
  return fullPlanOf(ofCase, playbook, now, asked).plan
}

type Mutable<T> = { -readonly [K in keyof T]: T[K] extends Estimate ? [number, number, number] : T[K] }
const mutable = <T>(one: T) => one as Mutable<NonNullable<T>> | null

const rank = (id: string, order: readonly string[]) => (order.includes(id) ? order.indexOf(id) : order.length)

function shownOption(option: RouteOption, considered: Considered): PlanOption {
  const { live, joint, axes, aside, built, best, worths } = considered
  const index = live.findIndex((one) => one.id === option.id)
  const figures: Blended | null = index >= 0 ? blended(option, joint.variants(index)) : null
  const isShown = (name: string) => !isPreparation(option) || name !== 'window'
  const { kind, copy } = option.binding
  const told = [...option.chanceFactors, ...option.shareFactors()]
  const factors = (figures?.factors ?? told).filter((factor) => isShown(factor.name))
  const chance = figures?.chance ?? option.chance
  const meanShare = figures?.meanShare ?? option.meanShare
  const placed = index >= 0 ? { index, problem: built.problem, worths, order: best.steps, live } : null
  const { standing, says } = standingOf({ ...option, chance, meanShare }, placed, aside, axes)
  const isoOrNull = (time: number | null) => (time === null ? null : isoOf(Math.round(time)))
  const handsOn =
    index >= 0
      ? joint.variants(index).reduce((sum, one) => sum + one.probability * one.option.handsOn, 0)
      : option.handsOn
  return {
    id: option.id,
    kind: kind.id,
    family: kind.id === SAFETY ? SAFETY : kind.id === CONSENT ? CONSENT : kind.family,
    copy: copy?.id ?? null,
    title: option.title,
    standing,
    chance: bounded(chance),
    share: bounded(meanShare),
    expected: clamped(chance[1] * meanShare[1]),
    closes: [isoOrNull(option.window.earliest), isoOrNull(option.window.latest)],
    minutes: { handsOn: Math.round(handsOn), waiting: Math.round(option.waiting) },
    money: kind.money,
    harm: option.harm,
    reach: Object.fromEntries(
      axes.map((axis, set) => [
        axis.wanted.id,
        figures ? figures.reach[set]!.map(clamped) : option.share[set]!.map((value) => clamped(value[1])),
      ]),
    ),
    factors: factors.map((factor) => ({
      name: factor.name,
      value: factor.value[1],
      range: [factor.value[0], factor.value[2]],
      fact: factor.fact,
      says: factor.says(),
    })),
    says,
  }
}

const bounded = (figure: Estimate): [number, number, number] => [
  clamped(figure[0]),
  clamped(figure[1]),
  clamped(figure[2]),
]

function planHolds({ situation, live }: Considered): PlanHold[] {
  return holdsOf(situation).flatMap((hold) => {
    const protects = live
      .filter(
        ({ binding }) =>
          binding.kind.holds.includes(holdKindOf(hold.id)) &&
          (hold.copies.length === 0 || (binding.copy !== null && hold.copies.includes(binding.copy.id))),
      )
      .map((option) => option.id)
    if (protects.length === 0 && !hold.isAlways) return []
    return [{ id: hold.id, what: hold.what, why: hold.why, says: holdWords(hold), from: [...hold.from], protects }]
  })
}
