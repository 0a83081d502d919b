import { known } from '../../cases/shape/fact'
import { countOf } from '../../cases/shape/wanted'
import { ACCESS_GATES } from '../../playbook/kinds/route-kind'
import type { Axis } from '../situation/axis'
import type { Joint } from './joint'
import type { RouteOption } from '../figures/options'
import { SAFETY } from '../situation/plan-shape'
import { isPreparation, preparationsOf } from './preparations'
import { STEADY, type JointState, type Problem, type Step, type WindowLeft } from './problem'
import type { Situation } from '../situation/situation'

/** Which end of the ranges a problem is built from. */
export type Bound = 0 | 1 | 2

/** A problem, and for each slice of the axes the column of the problem that stands for it. */
export interface Built {
  readonly problem: Problem
  readonly columns: readonly number[]
}

/** Where nobody counted the items, there are more than a handful. */
const USUAL_COUNT = 20

/** The problem of ordering these options when work begins at `start` (ms), over the joint states of what they share. */
export function buildProblem(
  options: readonly RouteOption[],
  joint: Joint,
  axes: readonly Axis[],
  situation: Situation,
  start: number,
  bound: Bound = 1,
): Built {
  const sources = [...new Set(options.map(groupKey))]
  const groups = options.map((option) => sources.indexOf(groupKey(option)))
  const gates = sources.map((source) => sharedGates(options.filter((option) => groupKey(option) === source)))
  const figures = figuresAt(start, situation, axes, bound)
  const firsts = sources.map((_, group) => groups.indexOf(group))
  const states = joint.states.map(({ probability }, state): JointState => {
    const inState = options.map((_, index) => joint.optionIn(index, state))
    const access = firsts.map((first, group) => accessOf(inState[first]!, gates[group]!, bound))
    const own = inState.map((option, index) => {
      const through = access[groups[index]!]!
      return through > 0 ? Math.min(1, figures(option).chance / through) : 0
    })
    return {
      probability,
      access,
      own,
      share: inState.map((option) => figures(option).share),
      windows: inState.map((option) => figures(option).windowLeft),
    }
  })
  const worth = axes.flatMap((axis) => axis.slices.map((slice) => slice.worth))
  return merged(
    {
      steps: options.map((option, index) => stepOf(option, index, options, groups[index]!, joint, situation)),
      groups: sources.length,
      worth,
      items: axes.reduce((sum, axis) => sum + missingItems(axis), 0),
      states,
    },
    worth.length,
  )
}

interface Figures {
  readonly chance: number
  readonly share: readonly number[]
  readonly windowLeft: WindowLeft
}

/** The figures of an option begun at `start`, worked out once for each of its variants. */
function figuresAt(start: number, { workFrom, now }: Situation, axes: readonly Axis[], bound: Bound) {
  const clock = workFrom(start)
  const kept = new Map<RouteOption, Figures>()
  return (option: RouteOption): Figures => {
    const before = kept.get(option)
    if (before) return before
    const atStart = option.window.survival(start)
    const rest = option.chanceFactors.reduce(
      (so, factor) => (factor.name === 'window' ? so : so * factor.value[bound]),
      1,
    )
    const ratio: WindowLeft = (busyMinutes) =>
      busyMinutes === 0 ? 1 : option.window.survival(clock.after(busyMinutes)) / atStart
    const isSteady = option.window.earliest === null && option.window.survival(now + 1e10) === atStart
    const figures: Figures = {
      chance: rest * atStart,
      share: axes.flatMap((_, set) => option.share[set]!.map((value) => value[bound])),
      windowLeft: isSteady || atStart <= 0 ? STEADY : ratio,
    }
    kept.set(option, figures)
    return figures
  }
}

function missingItems(axis: Axis): number {
  const missing = axis.slices.reduce((sum, slice) => sum + slice.mass * slice.missing, 0)
  return missing * (known(axis.wanted.count) ? countOf(axis.wanted) : USUAL_COUNT)
}

/** A laboratory reads the same medium but needs none of the access that the bench needs. */
const groupKey = ({ binding }: RouteOption) =>
  binding.kind.family === 'lab' ? `lab/${binding.source}` : binding.source

function sharedGates(members: readonly RouteOption[]): string[] {
  return ACCESS_GATES.filter((name) =>
    members.every((member) => member.chanceFactors.some((factor) => factor.name === name)),
  )
}

const accessOf = (option: RouteOption, gates: readonly string[], bound: Bound) =>
  option.chanceFactors.reduce((so, { name, value }) => (gates.includes(name) ? so * value[bound] : so), 1)

function stepOf(
  option: RouteOption,
  index: number,
  options: readonly RouteOption[],
  group: number,
  joint: Joint,
  situation: Situation,
): Step {
  const { weights } = situation.playbook.shop
  const { kind } = option.binding
  const before = preparationsOf(option, situation).flatMap((id) => {
    const position = options.findIndex((other) => other.id === id)
    return position < 0 ? [] : [position]
  })
  const handsOn = joint.variants(index).reduce((sum, one) => sum + one.probability * one.option.handsOn, 0)
  return {
    id: option.id,
    group,
    nest: kind.nested ?? null,
    cost: handsOn * weights.handsOnMinute + option.waiting * weights.waitingMinute + kind.money.look,
    take: kind.money.take,
    harm: option.harm,
    // Only a safety copy takes the harm away; the client's consent does not.
    coveredBy: before.filter((position) => options[position]!.binding.kind.id === SAFETY),
    requires: before,
    busy: Math.round(handsOn + (kind.time.occupies ? option.waiting : 0)),
    leaves: options.map((other) => 1 - spoils(option, other)),
  }
}

/** How much of the other option is lost once this one has been carried out. */
function spoils(option: RouteOption, other: RouteOption): number {
  const { effects } = option.binding.kind
  const sameDevice = option.binding.device !== null && option.binding.device.id === other.binding.device?.id
  const onDevice = other.binding.copy === null && !isPreparation(other)
  if (option === other || !sameDevice || !onDevice) return 0
  if (effects.erasesDevice) return 1
  return other.binding.kind.brings.by === 'storage' || other.binding.kind.brings.by === 'rows' ? effects.spoilsScans : 0
}

/** Neighbouring slices that look the same to every step in every state are one column: exact, and much less to do. */
function merged(problem: Problem, slices: number): Built {
  const shares = [...new Set(problem.states.flatMap((state) => state.share))]
  const looksAlike = (one: number, other: number) => shares.every((bySlice) => bySlice[one] === bySlice[other])
  const columns: number[] = []
  const worth: number[] = []
  const firsts: number[] = []
  for (let slice = 0; slice < slices; slice++) {
    const last = firsts.at(-1)
    if (last !== undefined && looksAlike(last, slice)) worth[worth.length - 1] = worth.at(-1)! + problem.worth[slice]!
    else {
      firsts.push(slice)
      worth.push(problem.worth[slice]!)
    }
    columns.push(worth.length - 1)
  }
  const narrow = new Map<readonly number[], readonly number[]>()
  const narrowed = (share: readonly number[]) => {
    const before = narrow.get(share)
    if (before) return before
    const kept = firsts.map((slice) => share[slice]!)
    narrow.set(share, kept)
    return kept
  }
  const states = problem.states.map((state) => ({ ...state, share: state.share.map(narrowed) }))
  return { problem: { ...problem, worth, states }, columns }
}
