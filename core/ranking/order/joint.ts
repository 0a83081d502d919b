import { boundIn, type Binding } from '../../playbook/bind'
import { DAY_MS } from '../../cases/shape/moment'
import type { Change } from '../../cases/facts/facts'
import type { Axis } from '../situation/axis'
import type { Estimate } from '../situation/estimate'
import { optionOf, type RouteOption } from '../figures/options'
import type { GateName } from '../../playbook/kinds/route-kind'
import { unmetPriorOf } from '../figures/gates'
import { isPreparation, preparationOf } from './preparations'
import { supposingIn, type Situation } from '../situation/situation'
import { unknownsOf, type Unknown } from './unknowns'

/** Maximum number of joint states. */
export const MAX_STATES = 64

/** Figures that differ by less are the same. */
const SAME = 1e-10

/** A fact that moves less than this part of what everything is worth is left at its mean. */
const NEGLIGIBLE = 0.002

/** A fact that nobody knows, and what hangs on it. */
export interface Moving {
  readonly unknown: Unknown
  /** positions of the options whose figures it moves */
  readonly moves: readonly number[]
  /** in money: how far the worth of what those options bring spreads over its answers */
  readonly influence: number
}

/** Everything unknown that moves some of the options, with the options' figures under every answer. */
export interface Unknowns {
  readonly options: readonly RouteOption[]
  readonly axes: readonly Axis[]
  readonly situation: Situation
  /** those that move something, the most moving first */
  readonly moving: readonly Moving[]
  /** an option as it would be if these answers held */
  readonly under: (option: number, answers: ReadonlyMap<Unknown, number>) => RouteOption
}

/** One combination of answers. */
export interface FactState {
  readonly probability: number
  /** by dimension: which answer holds */
  readonly answers: readonly number[]
}

/** The joint states of some of the unknown facts; what is not among them stands at its mean. */
export interface Joint {
  readonly dimensions: readonly Moving[]
  /** shared facts that there was no room for, so that they stand at their mean */
  readonly folded: readonly string[]
  readonly states: readonly FactState[]
  /** an option in one of the states */
  readonly optionIn: (option: number, state: number) => RouteOption
  /** the distinct figures of an option over all states, each with its chance */
  readonly variants: (option: number) => readonly { readonly probability: number; readonly option: RouteOption }[]
}

/** Which unknown facts move which of these options, found by supposing each answer in turn. */
export function unknownsAmong(options: readonly RouteOption[], axes: readonly Axis[], situation: Situation): Unknowns {
  const under = evaluator(options, axes, situation)
  const moving = unknownsOf(
    situation,
    options.map((option) => option.binding),
  )
    .map((unknown) => movedBy(unknown, options, axes, situation, under))
    .filter((one) => one.moves.length > 0)
    .sort((one, other) => other.influence - one.influence)
  return { options, axes, situation, moving, under }
}

/** Supposes answers and keeps what came of it: most options rest on few of the facts. */
function evaluator(options: readonly RouteOption[], axes: readonly Axis[], situation: Situation): Unknowns['under'] {
  const kept = new Map<string, RouteOption>()
  const situations = new Map<string, Situation>()
  return (index, answers) => {
    const given = [...answers].filter(([unknown]) => mayRestOn(options[index]!.binding, unknown.fact))
    if (given.length === 0) return options[index]!
    const key = given.map(([unknown, answer]) => `${unknown.fact}=${answer}`).join('&')
    const before = kept.get(`${index}|${key}`)
    if (before) return before
    const changes: Change[] = given.flatMap(([unknown, answer]) => unknown.answers[answer]!.suppose)
    const supposed = situations.get(key) ?? supposingIn(situation, changes)
    situations.set(key, supposed)
    const binding = boundIn(options[index]!.binding, supposed.ofCase)
    const option = isPreparation(options[index]!)
      ? preparationOf(binding, axes, supposed)
      : optionOf(binding, axes, supposed)
    kept.set(`${index}|${key}`, option)
    return option
  }
}

/** Whether a route can rest on a fact at all, by what it reads: spares supposing what cannot matter. */
function mayRestOn({ kind, copy, device }: Binding, fact: string): boolean {
  const [list, id, ...rest] = fact.split('.')
  const has = (...gates: string[]) => kind.gates.some((gate) => gates.includes(gate.gate))
  if (list === 'devices') return device?.id === id && (rest[0] !== 'storage' || kind.brings.by === 'storage')
  if (list === 'copies') return copy?.id === id
  if (fact === 'consent.erase.answer') return has('consent-erase')
  if (list === 'consent') return has('consent-laboratory')
  if (fact === 'limits.money') return has('price')
  return true
}

function movedBy(
  unknown: Unknown,
  options: readonly RouteOption[],
  axes: readonly Axis[],
  situation: Situation,
  under: Unknowns['under'],
): Moving {
  const moves: number[] = []
  let influence = 0
  for (const [index, option] of options.entries()) {
    if (!mayRestOn(option.binding, unknown.fact)) continue
    const answers = unknown.answers.map((_, answer) => under(index, new Map([[unknown, answer]])))
    // A figure that no answer could bring about is not one that holds without them either.
    if (answers.every((one) => one === option || isSame(one, option, situation))) continue
    moves.push(index)
    const worths = answers.map((one) => broughtAlone(one, axes))
    const mean = worths.reduce((sum, worth, answer) => sum + worth * unknown.answers[answer]!.probability, 0)
    influence += Math.sqrt(
      worths.reduce((sum, worth, answer) => sum + unknown.answers[answer]!.probability * (worth - mean) ** 2, 0),
    )
  }
  return { unknown, moves, influence }
}

function isSame(one: RouteOption, other: RouteOption, situation: Situation): boolean {
  return Math.abs(one.chance[1] - other.chance[1]) <= SAME && isSameButForGates(one, other, situation)
}

function isSameButForGates(one: RouteOption, other: RouteOption, { now }: Situation): boolean {
  const later = now + DAY_MS
  if (Math.abs(one.window.survival(later) - other.window.survival(later)) > SAME) return false
  return one.share.every((bySlice, set) => {
    const others = other.share[set]!
    let last: Estimate | null = null
    return bySlice.every((share, slice) => {
      if (share === last) return true
      last = share
      return Math.abs(share[1] - others[slice]![1]) <= SAME
    })
  })
}

/** In money: what the option brings on its own. */
export function broughtAlone(option: RouteOption, axes: readonly Axis[]): number {
  let worth = 0
  for (const [set, axis] of axes.entries())
    for (const [slice, { worth: atStake }] of axis.slices.entries()) worth += atStake * option.share[set]![slice]![1]
  return worth * option.chance[1]
}

/**
 * The joint states of the facts that at least two routes share, the most moving ones first, as many as
 * give up to `most` states. A fact that must be separated comes before all others.
 */
export function jointOf(unknowns: Unknowns, must: readonly Unknown[] = [], most = MAX_STATES): Joint {
  const { options, moving } = unknowns
  const atStake = unknowns.axes.reduce((sum, axis) => sum + axis.slices.reduce((so, slice) => so + slice.worth, 0), 0)
  const isRoute = options.map((option) => !isPreparation(option))
  // A consent is its preparation's alone to meet; what else a preparation rests on, it shares with its route.
  const isShared = ({ unknown, moves }: Moving) =>
    moves.filter((index) => isRoute[index] || !unknown.fact.startsWith('consent.')).length > 1
  const first = moving.filter((one) => must.includes(one.unknown))
  const rest = moving.filter((one) => !must.includes(one.unknown) && isShared(one))
  const dimensions: Moving[] = []
  const folded: string[] = []
  let states = 1
  for (const one of [...first, ...rest]) {
    const more = states * one.unknown.answers.length
    const isNegligible = one.influence < atStake * NEGLIGIBLE && !must.includes(one.unknown)
    if (more > most || isNegligible) folded.push(one.unknown.fact)
    else {
      dimensions.push(one)
      states = more
    }
  }
  return jointStates(unknowns, dimensions, folded)
}

/** The gates that read a fact of two answers, by the end of its path; true where the gate is met by the second one. */
const GATES_OF: readonly [end: RegExp, gate: GateName, isMetBySecond: boolean][] = [
  [/\.bins\.\w+$/, 'bin-on', false],
  [/\.sync$/, 'sync-was-on', false],
  [/\.sync$/, 'sync-was-off', true],
  [/\.size$/, 'full-size', false],
  [/\.size$/, 'reduced-size', true],
  [/\.selective$/, 'selective', false],
  [/\.cable$/, 'cable', false],
  [/\.spare$/, 'spare', false],
]

/** The chance of an answer to a fact, as the option's own kind has it where one of its gates reads the fact. */
export function chanceFor(
  { fact, answers }: Unknown,
  answer: number,
  option: RouteOption,
  situation: Situation,
): number {
  const { probability } = answers[answer]!
  if (answers.length !== 2) return probability
  const { kind } = option.binding
  for (const [end, name, isMetBySecond] of GATES_OF) {
    const gate = end.test(fact) ? kind.gates.find((one) => one.gate === name) : undefined
    if (!gate) continue
    const met = unmetPriorOf(gate, kind.id, situation)[1]
    return (answer === 0) !== isMetBySecond ? met : 1 - met
  }
  return probability
}

/** An option as it is under one combination of answers, with the chance of that. */
export interface Variant {
  readonly probability: number
  readonly answers: ReadonlyMap<Unknown, number>
  readonly option: RouteOption
}

/** The most combinations of answers over which the shown figures of one option are summed. */
const MOST_VARIANTS = 256

/**
 * The figures of one option under every combination of answers to the facts that move it, so that what is shown is their
 * mean, whatever fact is asked about. Facts that move one gate alone stand in that gate as their mean already. Beyond 256
 * combinations the least moving facts stand at their mean.
 */
export function variantsOf(unknowns: Unknowns, option: number): Variant[] {
  const facts: Unknown[] = []
  let count = 1
  for (const unknown of coupledFacts(unknowns, option)) {
    if (count * unknown.answers.length > MOST_VARIANTS) continue
    facts.push(unknown)
    count *= unknown.answers.length
  }
  return combinationsOf(unknowns, option, facts)
}

/** An option under every combination of answers to these facts. */
function combinationsOf({ under, options, situation }: Unknowns, option: number, facts: readonly Unknown[]): Variant[] {
  return facts
    .reduce<{ probability: number; answers: [Unknown, number][] }[]>(
      (so, unknown) =>
        so.flatMap(({ probability, answers }) =>
          unknown.answers.map((_, index) => ({
            probability: probability * chanceFor(unknown, index, options[option]!, situation),
            answers: [...answers, [unknown, index] as [Unknown, number]],
          })),
        ),
      [{ probability: 1, answers: [] }],
    )
    .filter(({ probability }) => probability > 0)
    .map(({ probability, answers: list }) => {
      const answers = new Map(list)
      return { probability, answers, option: under(option, answers) }
    })
}

/** The facts that move an option, without those that move nothing but one gate, which has their mean already. */
function coupledFacts(unknowns: Unknowns, option: number): Unknown[] {
  const { moving, under, options, situation } = unknowns
  const told = options[option]!
  const facts = moving.flatMap(({ unknown, moves }) => (moves.includes(option) ? [unknown] : []))
  const moved = facts.map((unknown) => {
    const answers = unknown.answers.map((_, answer) => under(option, new Map([[unknown, answer]])))
    const gates = told.chanceFactors.flatMap((_, at) => (isMovedAt(told, answers, at) ? [at] : []))
    return {
      unknown,
      gates,
      isOfOneGate: gates.length === 1 && answers.every((one) => isSameButForGates(one, told, situation)),
    }
  })
  const stands = new Set<Unknown>()
  for (const gate of told.chanceFactors.keys()) {
    const movers = moved.filter(({ gates }) => gates.includes(gate))
    if (movers.length === 0 || !movers.every(({ isOfOneGate }) => isOfOneGate)) continue
    const together = movers.map(({ unknown }) => unknown)
    const mean = combinationsOf(unknowns, option, together).reduce(
      (sum, one) => sum + one.probability * one.option.chanceFactors[gate]!.value[1],
      0,
    )
    if (Math.abs(mean - told.chanceFactors[gate]!.value[1]) <= SAME) for (const one of together) stands.add(one)
  }
  return facts.filter((unknown) => !stands.has(unknown))
}

/** Whether one factor of an option's chance differs under any of these answers. */
const isMovedAt = ({ chanceFactors }: RouteOption, answers: readonly RouteOption[], at: number) =>
  answers.some((one) => Math.abs(one.chanceFactors[at]!.value[1] - chanceFactors[at]!.value[1]) > SAME)

function jointStates({ options, under }: Unknowns, dimensions: readonly Moving[], folded: readonly string[]): Joint {
  const states = dimensions.reduce<FactState[]>(
    (so, { unknown }) =>
      so.flatMap((state) =>
        unknown.answers.map((answer, index) => ({
          probability: state.probability * answer.probability,
          answers: [...state.answers, index],
        })),
      ),
    [{ probability: 1, answers: [] }],
  )
  // By option: the dimensions that move it, and so which of the states look alike to it.
  const own = options.map((_, option) => dimensions.flatMap(({ moves }, at) => (moves.includes(option) ? [at] : [])))
  const memo = options.map(() => new Map<number, RouteOption>())
  const optionIn = (option: number, state: number) => {
    const { answers } = states[state]!
    const key = own[option]!.reduce((so, at) => so * 16 + answers[at]! + 1, 0)
    const before = memo[option]!.get(key)
    if (before) return before
    const found = under(option, new Map(own[option]!.map((at) => [dimensions[at]!.unknown, answers[at]!])))
    memo[option]!.set(key, found)
    return found
  }
  const variants = (option: number) => {
    const chances = new Map<RouteOption, number>()
    for (const [index, { probability }] of states.entries()) {
      const found = optionIn(option, index)
      chances.set(found, (chances.get(found) ?? 0) + probability)
    }
    return [...chances].map(([found, probability]) => ({ probability, option: found }))
  }
  return { dimensions, folded, states, optionIn, variants }
}
