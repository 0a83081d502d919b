import { keptBy } from '../situation/kept-by'
import { reachedBy } from './reached'
import { fullness, MAX_STEPS, STEADY, type JointState, type Order, type Problem, type WindowLeft } from './problem'
import { valueTables } from './value-table'

/** Below this, in money, a difference is rounding, not a reason. */
const EPSILON = 1e-10

/**
 * The best sequence and stopping point of the problem, exactly, by dynamic programming over the subsets
 * of steps already tried (Held and Karp's method): every term of the objective depends on the set tried
 * before, never on its order. Throws a RangeError above 14 steps.
 */
export function bestOrder(problem: Problem): Order {
  return bestOrders(problem).whole
}

/** By step and subset tried before it: gain − Q × cost in money, one step's 2^n figures after the other's. */
export type Worths = Float64Array

/**
 * The best order over all joint states, and the best in each of these parts of them, as if it were known that
 * one of the part's states holds. The parts are lists of positions of states, each state in one of them.
 */
export function bestOrders(
  problem: Problem,
  parts: readonly (readonly number[])[] = [problem.states.map((_, state) => state)],
): { readonly whole: Order; readonly parts: readonly Order[]; readonly worths: Worths } {
  const count = problem.steps.length
  if (count > MAX_STEPS) throw new RangeError(`${count} steps are more than ${MAX_STEPS}`)
  const worthIn = worthTables(problem)
  const tables = parts.map(worthIn)
  const all = tables.length === 1 ? tables[0]! : new Float64Array(count << count)
  if (tables.length > 1) for (const table of tables) addTo(all, table, 1)
  const chanceIn = (part: readonly number[]) => part.reduce((sum, state) => sum + problem.states[state]!.probability, 0)
  const whole = bestOf(problem, all, 1)
  return {
    worths: all,
    whole,
    parts: parts.length === 1 ? [whole] : tables.map((table, part) => bestOf(problem, table, chanceIn(parts[part]!))),
  }
}

/**
 * The dynamic program itself, from a table of what each step is worth after each subset, less its harm,
 * summed over states of this chance in all.
 */
function bestOf(problem: Problem, table: Float64Array, chance: number): Order {
  const count = problem.steps.length
  const subsets = 1 << count
  const bitsOf = (positions: readonly number[]) => positions.reduce((so, other) => so | (1 << other), 0)
  const required = problem.steps.map((step) => bitsOf(step.requires))
  const covering = problem.steps.map((step) => bitsOf(step.coveredBy))
  const harms = problem.steps.map((step) => step.harm)
  const best = new Float64Array(subsets)
  const choice = new Int8Array(subsets).fill(-1)
  for (let tried = subsets - 1; tried >= 0; tried--) {
    let ownOfChosen = 0
    let most = 0
    let chosen = -1
    for (let step = 0; step < count; step++) {
      const bit = 1 << step
      if (tried & bit || (tried & required[step]!) !== required[step]) continue
      const own = table[step * subsets + tried]! / chance - (tried & covering[step]! ? 0 : harms[step]!)
      const worth = own + best[tried | bit]!
      // Of orders worth the same, the one that gains sooner is preferred.
      const isBetter = worth > most + EPSILON
      const isTie = chosen >= 0 && worth > most - EPSILON && own > ownOfChosen + EPSILON
      if (!isBetter && !isTie) continue
      most = Math.max(most, worth)
      chosen = step
      ownOfChosen = own
    }
    best[tried] = most
    choice[tried] = chosen
  }
  const steps: number[] = []
  for (let tried = 0; choice[tried]! >= 0; tried |= 1 << steps.at(-1)!) steps.push(choice[tried]!)
  return { steps, value: best[0]! }
}

/**
 * Computes, for some of the states, what each step is worth in money after each subset of others: gain − Q × cost, one
 * step's 2^n figures after the other's. A step's windows are applied once for all states with the same window, to the
 * sum of their values, not state by state.
 */
function worthTables(problem: Problem) {
  const { steps, states } = problem
  const subsets = 1 << steps.length
  const valuesIn = valueTables(problem)
  const fullnessOf = keptBy((share: readonly number[]) => fullness(share, problem.items))
  const busy = busyTable(problem)
  const unspoilt = steps.map((_, step) => unspoiltTable(problem, step))
  const windowTable = keptBy((window: WindowLeft) => tableOf(window, busy.distinct))
  return (part: readonly number[]): Float64Array => {
    const table = new Float64Array(steps.length * subsets)
    const rows = steps.map((_, step) => table.subarray(step * subsets, (step + 1) * subsets))
    const alike = statesAlike(part.map((index) => states[index]!))
    const sums = alike.map(() => new Float64Array(subsets))
    const left = new Float64Array(subsets)
    for (const [which, together] of alike.entries())
      for (const state of together) {
        addTo(sums[which]!, valuesIn(state), state.probability)
        const leftHere = chancesLeft(problem, state, fullnessOf)
        addTo(left, leftHere, state.probability)
        for (const [step, { take }] of steps.entries())
          if (take > 0) addTo(rows[step]!, leftHere, -state.probability * chanceOf(problem, state, step) * take)
      }
    const sumOf = keptBy((places: string) => totalOf(places.split(' ').map((place) => sums[Number(place)]!)))
    for (const [step, { cost }] of steps.entries()) {
      addTo(rows[step]!, left, -cost)
      for (const [window, places] of placesBy(alike.map(([first]) => first!.windows[step]!)))
        addGains(rows[step]!, 1 << step, {
          values: sumOf(places.join(' ')),
          window: window === STEADY ? null : windowTable(window),
          busy: busy.index,
          unspoilt: unspoilt[step]!,
        })
    }
    return table
  }
}

/** The states in groups of which all have the same windows at every step. */
function statesAlike(states: readonly JointState[]): JointState[][] {
  const ids = new Map<WindowLeft, number>()
  const idOf = (window: WindowLeft) => {
    if (!ids.has(window)) ids.set(window, ids.size)
    return ids.get(window)!
  }
  const keys = states.map((state) => state.windows.map(idOf).join(' '))
  return [...placesBy(keys).values()].map((places) => places.map((place) => states[place]!))
}

/** By distinct entry of a list, its positions in it. */
function placesBy<T>(list: readonly T[]): Map<T, number[]> {
  const places = new Map<T, number[]>()
  for (const [place, one] of list.entries()) {
    const before = places.get(one)
    if (before) before.push(place)
    else places.set(one, [place])
  }
  return places
}

function totalOf(tables: readonly Float64Array[]): Float64Array {
  if (tables.length === 1) return tables[0]!
  const total = new Float64Array(tables[0]!.length)
  for (const table of tables) addTo(total, table, 1)
  return total
}

function tableOf(window: WindowLeft, minutes: readonly number[]): Float64Array {
  const table = new Float64Array(minutes.length)
  for (let at = 0; at < table.length; at++) table[at] = window(minutes[at]!)
  return table
}

function addTo(table: Float64Array, other: Float64Array, times: number) {
  for (let at = 0; at < table.length; at++) table[at] = table[at]! + other[at]! * times
}

interface StepFigures {
  /** by subset, summed over the states that have the window */
  readonly values: Float64Array
  /** by distinct sum of busy minutes; null where the window does not close while others are tried */
  readonly window: Float64Array | null
  readonly busy: Uint16Array
  /** by subset; null where nothing spoils the step */
  readonly unspoilt: Float64Array | null
}

/** Adds one step's gains over every subset that does not hold it. */
function addGains(table: Float64Array, bit: number, { values, window, busy, unspoilt }: StepFigures) {
  const below = bit - 1
  const isPlain = window === null && unspoilt === null
  for (let at = 0; at < table.length >> 1; at++) {
    // The at-th subset without the step: its bits with a gap where the step's would be.
    const tried = ((at & ~below) << 1) | (at & below)
    let gain = values[tried | bit]! - values[tried]!
    if (!isPlain) {
      if (window) gain *= window[busy[tried]!]!
      if (unspoilt) gain *= unspoilt[tried]!
    }
    table[tried] = table[tried]! + gain
  }
}

/** By subset: what is left of a step once all of it was done; null where nothing spoils it. */
function unspoiltTable({ steps }: Problem, step: number): Float64Array | null {
  if (steps.every(({ leaves }) => leaves[step] === 1)) return null
  const unspoilt = new Float64Array(1 << steps.length).fill(1)
  for (let tried = 1; tried < unspoilt.length; tried++) {
    const last = 31 - Math.clz32(tried)
    unspoilt[tried] = unspoilt[tried ^ (1 << last)]! * steps[last]!.leaves[step]!
  }
  return unspoilt
}

/**
 * What one more step is worth after a set of others: its gain, less its price, less its harm; in money.
 * Where the problem has been solved its table spares the work.
 */
export function stepGain(
  problem: Problem,
  tried: readonly number[],
  index: number,
  worths?: Worths,
): { gain: number; price: number; harm: number } {
  const step = problem.steps[index]!
  const before = tried.reduce((so, other) => so | (1 << other), 0)
  let price = 0
  for (const state of problem.states) {
    const left = tried.reduce((so, other) => so * (1 - endsWith(problem, state, other)), 1)
    price += state.probability * left * (step.cost + chanceOf(problem, state, index) * step.take)
  }
  return {
    gain: worths ? worths[(index << problem.steps.length) + before]! + price : gainAfter(problem, tried, before, index),
    price,
    harm: step.coveredBy.some((other) => before & (1 << other)) ? 0 : step.harm,
  }
}

function gainAfter(problem: Problem, tried: readonly number[], before: number, index: number): number {
  const busy = tried.reduce((sum, other) => sum + problem.steps[other]!.busy, 0)
  const unspoilt = tried.reduce((so, other) => so * problem.steps[other]!.leaves[index]!, 1)
  return problem.states.reduce((gain, state) => {
    const more = worthOf(problem, state, before | (1 << index)) - worthOf(problem, state, before)
    return gain + state.probability * state.windows[index]!(busy) * unspoilt * more
  }, 0)
}

function worthOf(problem: Problem, state: JointState, subset: number): number {
  const reached = reachedBy(problem, state, subset)
  return problem.worth.reduce((sum, worth, slice) => sum + worth * reached[slice]!, 0)
}

/** By subset: the chance, in this state, that something is still missing once all of it was tried. */
function chancesLeft(
  problem: Problem,
  state: JointState,
  fullnessOf: (share: readonly number[]) => number,
): Float64Array {
  const ends = problem.steps.map((_, step) => chanceOf(problem, state, step) * fullnessOf(state.share[step]!))
  const left = new Float64Array(1 << problem.steps.length).fill(1)
  for (let subset = 1; subset < left.length; subset++) {
    const last = 31 - Math.clz32(subset)
    left[subset] = left[subset ^ (1 << last)]! * (1 - ends[last]!)
  }
  return left
}

const chanceOf = (problem: Problem, state: JointState, index: number) =>
  state.access[problem.steps[index]!.group]! * state.own[index]!

function endsWith(problem: Problem, state: JointState, index: number): number {
  return chanceOf(problem, state, index) * fullness(state.share[index]!, problem.items)
}

/** The distinct sums of busy minutes over all subsets, and which of them each subset has. */
function busyTable(problem: Problem): { distinct: number[]; index: Uint16Array } {
  const count = problem.steps.length
  const minutes = new Float64Array(1 << count)
  const index = new Uint16Array(1 << count)
  const places = new Map<number, number>([[0, 0]])
  for (let subset = 1; subset < minutes.length; subset++) {
    const last = 31 - Math.clz32(subset)
    minutes[subset] = minutes[subset ^ (1 << last)]! + problem.steps[last]!.busy
    const place = places.get(minutes[subset]!) ?? places.size
    places.set(minutes[subset]!, place)
    index[subset] = place
  }
  return { distinct: [...places.keys()], index }
}
