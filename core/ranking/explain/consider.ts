import type { Case } from '../../cases/shape/case'
import { isUndecided, type Run } from '../../cases/shape/run'
import { CAUSE_WORDS, dayWords } from '../../cases/telling/words'
import { bindingsOf } from '../../playbook/bind'
import type { Playbook } from '../../playbook/playbook'
import { axesOf, type Axis } from '../situation/axis'
import { buildProblem, type Bound, type Built } from '../order/build-problem'
import { REPAIR } from '../situation/plan-shape'
import { MAX_STEPS } from '../order/problem'
import type { Evidence } from '../situation/evidence'
import { jointOf, MAX_STATES, unknownsAmong, broughtAlone, type Joint, type Unknowns } from '../order/joint'
import { optionOf, type RouteOption } from '../figures/options'
import { isPreparation, preparationsFor, preparationsOf } from '../order/preparations'
import { plannedFor, type Planned } from '../order/planned'
import { situationOf, type Situation } from '../situation/situation'

/** Everything that the engine has computed about a case once the order is found; the words come later. */
export interface Considered {
  readonly situation: Situation
  readonly axes: readonly Axis[]
  /** every option, closed ones included */
  readonly options: readonly RouteOption[]
  /** the options that the order was computed from */
  readonly live: readonly RouteOption[]
  /** ids of the options that there was no room for */
  readonly aside: ReadonlySet<string>
  readonly unknowns: Unknowns
  readonly joint: Joint
  readonly built: Built
  readonly best: Planned
  /** the most joint states of facts that there is room for beside what a few items add */
  readonly room: number
  /** the same options and states, started at another time or taken at another end of their ranges */
  readonly builtAt: (start: number, bound?: Bound) => Built
}

/** Binds the playbook to the case, separates the unknowns and finds the order. */
export function consider(ofCase: Case, playbook: Playbook, now: number, evidence?: Evidence): Considered {
  const situation = situationOf(ofCase, playbook, now, evidence)
  const axes = axesOf(ofCase, playbook.shop.weights)
  const options = withPreparations(
    bindingsOf(ofCase, playbook).map((binding) => tried(optionOf(binding, axes, situation), situation)),
    axes,
    situation,
  )
  const { live, aside } = liveOptions(options, axes, situation)
  const unknowns = unknownsAmong(live, axes, situation)
  const first = jointOf(unknowns)
  const whole = buildProblem(live, first, axes, situation, now)
  const room = Math.floor(MAX_STATES / Math.max(1, whole.problem.states.length / first.states.length))
  const isFull = first.states.length <= room
  const joint = isFull ? first : jointOf(unknowns, [], room)
  const builtAt = (start: number, bound: Bound = 1) => buildProblem(live, joint, axes, situation, start, bound)
  const built = isFull ? whole : builtAt(now)
  const best = plannedFor(built.problem)
  return { situation, axes, options, live, aside, unknowns, joint, built, best, room, builtAt }
}

/** A pass is closed once a larger one over the same medium, which contains it, has run. */
function containedIn({ binding }: RouteOption, { ofCase, playbook }: Situation): string | null {
  const { nested } = binding.kind
  if (nested === undefined) return null
  const larger = ofCase.runs.findLast((run) => {
    const kind = playbook.kinds.find(({ id }) => id === run.kind)
    const isLarger = kind !== undefined && kind.nested === nested && kind.finds.usual > binding.kind.finds.usual
    return isLarger && run.option === `${run.kind}:${binding.source}` && hasRun(run)
  })
  return larger ? `${larger.title} has run, and contains it.` : null
}

const hasRun = (run: Run) => run.ended !== null && run.failedOn === null && !run.hasFailed && !isUndecided(run.cause)

/** An option that has been tried is closed by what came of it, unless it failed on a gate that is open now. */
function tried(option: RouteOption, situation: Situation): RouteOption {
  const { ofCase, playbook, now } = situation
  const last = ofCase.runs.findLast((run) => run.option === option.id && run.ended !== null)
  const containing = last ? null : containedIn(option, situation)
  if (containing !== null) return closedAs(option, containing)
  if (!last) return option
  // Nobody knows yet what it would have recovered.
  if (isUndecided(last.cause)) return option
  // A preparation that did not succeed is still to be done.
  const isRepair = option.id.startsWith(`${REPAIR}:`)
  if (isPreparation(option) && !isRepair && !isSafetyCopy(last) && last.failedOn === null) return option
  const day = dayWords(Date.parse(last.ended!), playbook.shop.zone, now)
  if (last.failedOn) {
    const gate = option.chanceFactors.find((factor) => factor.name === last.failedOn)
    if (gate?.value[1] === 1) return option
    return closedAs(
      option,
      `Tried on ${day}; it failed before it began (${last.failedOn.replaceAll('-', ' ')}). Change that fact to try again.`,
    )
  }
  if (isSafetyCopy(last))
    return closedAs(option, `Made on ${day}: ${last.safetyCopy!.items} items, ${last.safetyCopy!.place}.`)
  const back = last.results.reduce((sum, result) => sum + result.back, 0)
  const why = last.cause ? ` (${CAUSE_WORDS[last.cause]})` : ''
  return closedAs(option, `Tried on ${day}: ${back === 0 ? `it recovered nothing${why}` : `it recovered ${back}`}.`)
}

const closedAs = (option: RouteOption, closedBy: string): RouteOption => ({ ...option, closedBy })

function withPreparations(options: RouteOption[], axes: readonly Axis[], situation: Situation): RouteOption[] {
  const needed = options
    .filter((option) => option.closedBy === null)
    .flatMap((option) => preparationsFor(option, axes, situation))
    .map((option) => tried(option, situation))
  const distinct = [...new Map(needed.map((option) => [option.id, option])).values()]
  const done = new Set(distinct.filter((option) => option.closedBy !== null && wasDone(option, situation)).map(idOf))
  // A safety copy stays made: what it covers no longer does harm.
  const covered = options.map((option) =>
    preparationsOf(option, situation).some((id) => done.has(id)) ? { ...option, harm: 0 } : option,
  )
  return [...covered, ...distinct]
}

const idOf = ({ id }: RouteOption) => id
const wasDone = (option: RouteOption, { ofCase }: Situation) =>
  ofCase.runs.some((run) => run.option === option.id && isSafetyCopy(run))

/** Whether a run's report says that a safety copy was made and verified, where it is, and how many items it has. */
const isSafetyCopy = (run: Run) =>
  run.ended !== null && run.failedOn === null && !run.hasFailed && run.safetyCopy !== null

/** A route that promises less than this part of what is at stake is hopeless, and is not compared with others. */
const HOPELESS = 0.0005

/**
 * The options that the order is computed from: those that can bring something, at most 14, the least valuable left out,
 * but never what a chosen one requires.
 */
function liveOptions(options: readonly RouteOption[], axes: readonly Axis[], situation: Situation) {
  const open = options.filter((option) => option.closedBy === null)
  const preparations = new Map(open.filter(isPreparation).map((option) => [option.id, option]))
  const routes = open.filter((option) => !isPreparation(option))
  const promises = routes.filter((option) => option.chance[1] * option.meanShare[1] >= HOPELESS)
  const before = (option: RouteOption) => preparationsOf(option, situation).flatMap((id) => preparations.get(id) ?? [])
  const kept = new Set<RouteOption>()
  for (const option of byValue(promises, axes, situation)) {
    const more = [option, ...before(option)].filter((one) => !kept.has(one))
    if (kept.size + more.length <= MAX_STEPS) for (const one of more) kept.add(one)
  }
  return {
    live: open.filter((option) => kept.has(option)),
    aside: new Set(promises.filter((option) => !kept.has(option)).map(idOf)),
  }
}

/** The routes by what each is worth on its own, where there are too many. */
function byValue(routes: readonly RouteOption[], axes: readonly Axis[], situation: Situation): readonly RouteOption[] {
  if (routes.length * 2 <= MAX_STEPS) return routes
  const { handsOnMinute } = situation.playbook.shop.weights
  const valueOf = (option: RouteOption) => {
    const { look, take } = option.binding.kind.money
    const price = option.handsOn * handsOnMinute + look + option.chance[1] * (take + option.harm)
    return broughtAlone(option, axes) - price
  }
  return routes
    .map((option) => ({ option, value: valueOf(option) }))
    .sort((one, other) => other.value - one.value)
    .map(({ option }) => option)
}
