import { known } from '../../cases/shape/fact'
import { MINUTE_MS } from '../../cases/shape/moment'
import { countOf } from '../../cases/shape/wanted'
import { ACCESS_GATES } from '../../playbook/kinds/route-kind'
import type { Axis } from '../situation/axis'
import type { Joint } from './joint'
import type { RouteOption } from '../figures/options'
import { SAFETY } from '../situation/plan-shape'
import { gatesMetBy, isPreparation, preparationsOf } from './preparations'
import { fewItems } from './few-items'
import { STEADY, type JointState, type Problem, type Step, type WindowLeft } from './problem'
import type { Situation } from '../situation/situation'

/** Which end of the ranges a problem is built from. */
export type Bound = 0 | 1 | 2

/** A problem, and how the slices of the axes lie in it. */
export interface Built {
  readonly problem: Problem
  /** by slice of the axes, set after set: the column of the problem that stands for it */
  readonly columns: readonly number[]
  /** by state of the problem: the joint state of the facts that it is part of */
  readonly origin: readonly number[]
  /** whether the item of a slice's set was made in that slice in a state; null where sets are shares, not single items */
  readonly isHere: ((state: number, slice: number) => boolean) | null
}

/** Sets that together have fewer items than this are a few items, of which a share is a chance. */
const FEW = 5

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
  const asked = options.map((option) => askedBefore(option, options, situation))
  const groups = options.map((option) => sources.indexOf(groupKey(option)))
  const gates = sources.map((source) => sharedGates(options.filter((option) => groupKey(option) === source)))
  const figures = figuresAt(start, situation, axes, bound)
  const clock = situation.workFrom(start)
  const firsts = sources.map((_, group) => groups.indexOf(group))
  const states = joint.states.map(({ probability }, state): JointState => {
    const inState = options.map((_, index) => joint.optionIn(index, state))
    const access = firsts.map((first, group) =>
      accessOf(
        inState[first]!,
        gates[group]!.filter((gate) => !asked[first]!.includes(gate)),
        bound,
      ),
    )
    const own = inState.map((option, index) => {
      const through = access[groups[index]!]!
      return through > 0 ? Math.min(1, figures(option, asked[index]!).chance / through) : 0
    })
    return {
      probability,
      access,
      own,
      share: inState.map((option, index) => figures(option, asked[index]!).share),
      windows: inState.map((option, index) => figures(option, asked[index]!).windowLeft),
    }
  })
  const worth = axes.flatMap((axis) => axis.slices.map((slice) => slice.worth))
  const weights = situation.playbook.shop.weights
  const problem: Problem = {
    steps: options.map((option, index) => stepOf(option, index, options, groups[index]!, joint, situation)),
    groups: sources.length,
    worth,
    states,
    elapsed: (hands, wait) => clock.after(hands) + wait * MINUTE_MS - start,
    latePerDay: weights.dayLate,
    residue: weights.safetyCopyLeaves,
    tie: Math.max(TIE.partOfWorth * worth.reduce((sum, one) => sum + one, 0), TIE.minutes * weights.handsOnMinute),
  }
  const sets = axes.map((axis) => axis.slices.length)
  return axes.reduce((sum, axis) => sum + missingItems(axis), 0) < FEW ? fewItems(problem, sets) : merged(problem)
}

/** Plans that differ by less than this part of the worth, or these hands-on minutes, are equal at their first step. */
const TIE = { partOfWorth: 0.005, minutes: 5 }

interface Figures {
  readonly chance: number
  readonly share: readonly number[]
  readonly windowLeft: WindowLeft
}

/**
 * The figures of an option begun at `start`, worked out once for each of its variants. Gates that are a preparation's to
 * meet are left out: it has to have worked before.
 */
function figuresAt(start: number, { now }: Situation, axes: readonly Axis[], bound: Bound) {
  const kept = new Map<RouteOption, Figures>()
  return (option: RouteOption, asked: readonly string[]): Figures => {
    const before = kept.get(option)
    if (before) return before
    const atStart = option.window.survival(start)
    const rest = option.chanceFactors.reduce(
      (so, factor) => (factor.name === 'window' || asked.includes(factor.name) ? so : so * factor.value[bound]),
      1,
    )
    const ratio: WindowLeft = (elapsed) => (elapsed === 0 ? 1 : option.window.survival(start + elapsed) / atStart)
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

/** The gates of a route that its preparations are there to meet. */
function askedBefore(option: RouteOption, options: readonly RouteOption[], situation: Situation): string[] {
  const ids = preparationsOf(option, situation)
  return options.flatMap((other) => (ids.includes(other.id) ? gatesMetBy(other) : []))
}

/** How many of a set's items are missing; where nobody counted them, there are more than a few. */
function missingItems(axis: Axis): number {
  const missing = axis.slices.reduce((sum, slice) => sum + slice.mass * slice.missing, 0)
  return missing * (known(axis.wanted.count) ? countOf(axis.wanted) : 2 * FEW)
}

/** A laboratory reads the same medium but needs none of the access that the bench needs; a preparation reads nothing. */
const groupKey = (option: RouteOption) => {
  const { binding, id } = option
  if (isPreparation(option)) return id
  return binding.kind.family === 'lab' ? `lab/${binding.source}` : binding.source
}

/** What a route reads: routes of one place share what is there to be found. */
function placeOf(option: RouteOption): string {
  const { kind, source, id } = option.binding
  const { by } = kind.brings
  if (isPreparation(option) || by === 'nothing') return id
  if (by === 'bin') return `${source}/bin/${kind.gates.find((gate) => gate.bin)?.bin ?? kind.id}`
  return `${source}/${by}`
}

function sharedGates(members: readonly RouteOption[]): string[] {
  if (isPreparation(members[0]!)) return []
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
  const keepsRoom = kind.time.occupies ? option.waiting * weights.waitingMinute : 0
  const handsOn = joint.variants(index).reduce((sum, one) => sum + one.probability * one.option.handsOn, 0)
  return {
    id: option.id,
    group,
    place: placeOf(option),
    nest: kind.nested ?? null,
    cost: handsOn * weights.handsOnMinute + keepsRoom + kind.money.look,
    look: kind.money.look,
    take: kind.money.take,
    harm: option.harm,
    destroys: destroyedBy(option),
    // Only a safety copy takes the harm away; the client's consent does not.
    coveredBy: before.filter((position) => options[position]!.binding.kind.id === SAFETY),
    requires: before,
    hands: handsOn,
    wait: option.waiting,
    closesByUse: kind.window.rule === 'reused' || kind.window.rule === 'fades',
    answersLater: !kind.time.occupies && option.waiting >= LATER_MINUTES,
    leaves: options.map((other) => 1 - spoils(option, other)),
  }
}

/** An answer that takes this long comes later; one that is there sooner is waited for. */
const LATER_MINUTES = 60

/** What a step writes over: the whole device, or one copy's kind of data. */
function destroyedBy({ binding }: RouteOption): string | null {
  const { erasesDevice, turnsBack } = binding.kind.effects
  if (turnsBack) return binding.source
  return erasesDevice ? (binding.device?.id ?? binding.source) : null
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

/** Slices that look the same to every step in every state are one column: exact, and much less to do. */
function merged(problem: Problem): Built {
  const shares = [...new Set(problem.states.flatMap((state) => state.share))]
  const looksAlike = (one: number, other: number) => shares.every((bySlice) => bySlice[one] === bySlice[other])
  const firsts: number[] = []
  const worth: number[] = []
  const columns = problem.worth.map((atStake, slice) => {
    const alike = firsts.findIndex((first) => looksAlike(first, slice))
    if (alike < 0) firsts.push(slice)
    const column = alike < 0 ? firsts.length - 1 : alike
    worth[column] = (worth[column] ?? 0) + atStake
    return column
  })
  const narrow = new Map<readonly number[], readonly number[]>()
  const narrowed = (share: readonly number[]) => {
    const before = narrow.get(share)
    if (before) return before
    const kept = firsts.map((slice) => share[slice]!)
    narrow.set(share, kept)
    return kept
  }
  const states = problem.states.map((state) => ({ ...state, share: state.share.map(narrowed) }))
  return { problem: { ...problem, worth, states }, columns, origin: states.map((_, state) => state), isHere: null }
}
