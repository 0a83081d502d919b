import type { Case } from '../../cases/shape/case'
import { isoOf } from '../../cases/shape/moment'
import type { Playbook } from '../../playbook/playbook'
import { blended, type Blended } from '../order/blend'
import { consider, type Considered } from './consider'
import { shownPlanOf, type Shown } from './course-of-plan'
import { clamped, ZERO, type Estimate } from '../situation/estimate'
import { toFirstSuccess, toStop } from '../order/estimates'
import type { Evidence } from '../situation/evidence'
import { forecastsOf, meanShareOf } from './forecast'
import { holdWords, type HoldFinding } from './holds/finding'
import { holdKindOf, holdsOf, isOfRoutes } from './holds/rules'
import type { Factor } from '../figures/factor'
import type { RouteOption } from '../figures/options'
import { overrideOf } from './override'
import { PLAN_FORMAT, type FullPlan, type Plan, type PlanHold, type PlanOption } from '../situation/plan-shape'
import type { Spent } from '../order/play'
import { variantsOf } from '../order/joint'
import { isPreparation, preparationFamily } from '../order/preparations'
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
  const { live, best, joint, axes, situation, options } = considered
  const isWhole = asked.depth !== 'order'
  const shown = shownPlanOf(considered, isWhole)
  const { course, played } = shown
  const sets = forecastsOf(axes, shown.outcomes)
  const order = course.order.map((step) => live[step]!.id)
  const listed = options
    .filter((option) => !isPreparation(option) || order.includes(option.id) || option.closedBy !== null)
    .sort((one, other) => rank(one.id, order) - rank(other.id, order))
  const spent = (of: (spent: Spent) => number) =>
    played.endings.reduce((sum, ending) => sum + ending.probability * of(ending.spent), 0)
  const until = isoOf(Math.round(holdsUntil(options, situation)))
  return {
    plan: {
      format: PLAN_FORMAT,
      version: 1,
      now: isoOf(now),
      order,
      exact: best.exact.length === live.length && considered.aside.size === 0,
      folded: [...joint.folded],
      holdsUntil: until,
      options: listed.map((option) => shownOption(option, considered, shown)),
      holds: planHolds(
        considered,
        listed.map(({ id }) => id),
      ),
      questions: isWhole ? questionsOf(considered) : [],
      expected: {
        share: meanShareOf(sets),
        handsOn: spent(({ hands }) => hands),
        waiting: spent(({ wait }) => wait),
        money: spent(({ money }) => money),
        first: mutable(toFirstSuccess(played)),
        stop: mutable(toStop(played)),
      },
      waiting: costOfWaiting(considered, { value: best.value, sets }),
      states: {
        count: joint.states.length,
        facts: joint.dimensions.map((one) => one.unknown.fact),
        folded: [...joint.folded],
      },
      sensitivity: isWhole ? sensitivityOf(considered) : null,
      until,
    },
    sets,
    value: best.value,
    next: shown.first && {
      ...shown.first,
      then: shown.first.then === null ? null : live[shown.first.then]!.id,
    },
    override: ofCase.override ? overrideOf(considered, course.order, ofCase.override.order) : null,
  }
}

/** The plan alone, in the shape in which it is exchanged. */
export function planOf(ofCase: Case, playbook: Playbook, now: number, asked: PlanAsked = {}): Plan {
  return fullPlanOf(ofCase, playbook, now, asked).plan
}

type Mutable<T> = { -readonly [K in keyof T]: T[K] extends Estimate ? [number, number, number] : T[K] }
const mutable = <T>(one: T) => one as Mutable<NonNullable<T>> | null

const rank = (id: string, order: readonly string[]) => (order.includes(id) ? order.indexOf(id) : order.length)

function shownOption(option: RouteOption, considered: Considered, shown: Shown): PlanOption {
  const { live, axes, aside, built } = considered
  const { course, worthFrom } = shown
  const index = live.findIndex((one) => one.id === option.id)
  const figures: Blended | null = index >= 0 ? blended(option, variantsOf(considered.unknowns, index)) : null
  const isSaid = (name: string) => !isPreparation(option) || name !== 'window'
  const { kind, copy } = option.binding
  const told = [...option.chanceFactors, ...option.shareFactors()]
  const factors = (figures?.factors ?? told).filter((factor) => isSaid(factor.name))
  if (isPreparation(option)) factors.push(BRINGS_NOTHING)
  const chance = figures?.chance ?? option.chance
  // What only comes before others brings nothing of its own.
  const meanShare = isPreparation(option) ? ZERO : (figures?.meanShare ?? option.meanShare)
  const placed = index >= 0 ? { index, problem: built.problem, course, live, worthFrom: worthFrom[index]! } : null
  const { standing, says } = standingOf({ ...option, chance, meanShare }, placed, aside, axes)
  const isoOrNull = (time: number | null) => (time === null ? null : isoOf(Math.round(time)))
  const handsOn = index >= 0 ? built.problem.steps[index]!.hands : option.handsOn
  return {
    id: option.id,
    kind: kind.id,
    family: isPreparation(option) ? preparationFamily(kind.id) : kind.family,
    copy: copy?.id ?? null,
    title: option.title,
    standing,
    chance: bounded(chance),
    share: bounded(meanShare),
    expected: clamped(chance[1] * meanShare[1]),
    tried: index >= 0 ? clamped(course.tried[index]!) : 0,
    until: index >= 0 ? course.until[index]! : null,
    after: index >= 0 && course.after[index] != null ? live[course.after[index]!]!.id : null,
    beginAtOnce: index >= 0 && course.beginAtOnce[index]!,
    worthFrom: index >= 0 ? worthFrom[index]! : null,
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

/** Why a step that only comes before others has no share. */
const BRINGS_NOTHING: Factor = {
  name: 'keeps',
  value: ZERO,
  fact: null,
  says: () => 'It brings nothing by itself; what needs it comes after it.',
}

const bounded = (figure: Estimate): [number, number, number] => [
  clamped(figure[0]),
  clamped(figure[1]),
  clamped(figure[2]),
]

function planHolds({ situation, live }: Considered, listed: readonly string[]): PlanHold[] {
  return holdsOf(situation).flatMap((hold) => {
    const protects = live
      .filter((option) => listed.includes(option.id) && isProtected(option, hold))
      .map((option) => option.id)
    if (protects.length === 0 && isOfRoutes(hold.id)) return []
    return [{ id: hold.id, what: hold.what, why: hold.why, says: holdWords(hold), from: [...hold.from], protects }]
  })
}

/** Whether a route waits for a hold: its kind names it, or it reads the device that the hold is about. */
function isProtected({ binding }: RouteOption, { id, copies, device, isForAll }: HoldFinding): boolean {
  if (isForAll) return binding.copy === null ? binding.device?.id === device : copies.includes(binding.copy.id)
  if (!binding.kind.holds.includes(holdKindOf(id))) return false
  if (device !== null && binding.device !== null && binding.device.id !== device) return false
  return copies.length === 0 || (binding.copy !== null && copies.includes(binding.copy.id))
}
