import { known } from '../cases/fact'
import { countOf } from '../cases/wanted'
import type { Shop } from '../playbook/shop'
import type { Axis } from './axis'
import type { Estimate } from './estimate'
import type { RouteOption } from './options'
import { workClock } from './opening-hours'
import { SAFETY } from './plan-shape'
import type { JointState, Problem, Step } from './problem'

/** Which end of the ranges a problem is built from. */
export type Bound = 0 | 1 | 2

/** Gates that belong to the copy rather than to one route: everybody who reads it has to pass them. */
const ACCESS_GATES: readonly string[] = ['working', 'passcode', 'account', 'backup-password']

/** Where nobody counted the items, there are more than a handful. */
const USUAL_COUNT = 20

/**
 * The problem of ordering these options when work begins at `start` (ms): at present with one joint
 * state, in which every unknown fact stands at its mean.
 */
export function buildProblem(
  options: readonly RouteOption[],
  axes: readonly Axis[],
  shop: Shop,
  start: number,
  bound: Bound = 1,
): Problem {
  const sources = [...new Set(options.map(groupKey))]
  const shared = sources.map((source) => sharedGates(options.filter((option) => groupKey(option) === source)))
  const access = shared.map((gates, group) => {
    const member = options.find((option) => groupKey(option) === sources[group])!
    return gates.reduce((so, name) => so * factorOf(member, name)[bound], 1)
  })
  const groups = options.map((option) => sources.indexOf(groupKey(option)))
  return {
    steps: options.map((option, index) => stepOf(option, index, options, groups[index]!, shop, bound)),
    groups: sources.length,
    worth: axes.flatMap((axis) => axis.slices.map((slice) => slice.worth)),
    items: axes.reduce((sum, axis) => sum + missingItems(axis), 0),
    states: [stateOf(options, groups, access, shop, start, bound)],
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

function factorOf(option: RouteOption, name: string): Estimate {
  return option.chanceFactors.find((factor) => factor.name === name)?.value ?? [1, 1, 1]
}

function stateOf(
  options: readonly RouteOption[],
  groups: readonly number[],
  access: readonly number[],
  shop: Shop,
  start: number,
  bound: Bound,
): JointState {
  const clock = workClock(start, shop)
  const atStart = options.map((option) => option.window.survival(start))
  const instants = new Map<number, number>()
  const after = (busyMinutes: number) => {
    const seen = instants.get(busyMinutes)
    if (seen !== undefined) return seen
    const instant = clock.after(busyMinutes)
    instants.set(busyMinutes, instant)
    return instant
  }
  return {
    probability: 1,
    access,
    own: options.map((option, index) => {
      const rest = option.chanceFactors.filter((factor) => factor.name !== 'window')
      const whole = rest.reduce((so, factor) => so * factor.value[bound], 1) * atStart[index]!
      const through = access[groups[index]!]!
      return through > 0 ? Math.min(1, whole / through) : 0
    }),
    windowLeft: (step, busyMinutes) =>
      atStart[step]! > 0 ? options[step]!.window.survival(after(busyMinutes)) / atStart[step]! : 0,
  }
}

function stepOf(
  option: RouteOption,
  index: number,
  options: readonly RouteOption[],
  group: number,
  shop: Shop,
  bound: Bound,
): Step {
  const { weights } = shop
  const { kind, device } = option.binding
  const safety = options.flatMap((other, position) =>
    other.id === `${SAFETY}:${device?.id}` && position !== index ? [position] : [],
  )
  return {
    id: option.id,
    group,
    nest: kind.nested ?? null,
    share: option.share.flatMap((bySlice) => bySlice.map((value) => value[bound])),
    cost: option.handsOn * weights.handsOnMinute + option.waiting * weights.waitingMinute + kind.money.look,
    take: kind.money.take,
    harm: option.harm,
    coveredBy: kind.effects.erasesDevice ? safety : [],
    requires: kind.effects.needsSafetyCopy ? safety : [],
    busy: option.handsOn + (kind.time.occupies ? option.waiting : 0),
    leaves: options.map((other) => 1 - spoils(option, other)),
  }
}

/** How much of the other option is lost once this one has been carried out. */
function spoils(option: RouteOption, other: RouteOption): number {
  const { effects } = option.binding.kind
  const sameDevice = option.binding.device !== null && option.binding.device.id === other.binding.device?.id
  const onDevice = other.binding.copy === null && other.binding.kind.id !== SAFETY
  if (option === other || !sameDevice || !onDevice) return 0
  if (effects.erasesDevice) return 1
  return other.binding.kind.brings.by === 'storage' ? effects.spoilsScans : 0
}
