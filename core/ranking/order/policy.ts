import { beliefsOf, gotOn, stepsByGroup, type Beliefs } from './beliefs'
import { worthsOf } from './brought'
import { digitOf, historiesOf, historyAt, placeOf, SURE, type Histories, type History } from './histories'
import { keptBy } from '../situation/kept-by'
import { MAX_EXACT, type Problem } from './problem'
import { timesOf } from './times'
import { harmAfter } from './trial'

/** Below this, in money, a difference is rounding, not a reason. */
const EPSILON = 1e-10

/** What to try next, whatever has come of the steps before. */
export interface Policy {
  /** the step to try, or null where it is best to stop */
  readonly next: (history: History) => number | null
  /** in money: what going on from the start is worth */
  readonly value: number
  /** in money, by step: what it is worth to begin with it; null where it cannot come first */
  readonly firsts: readonly (number | null)[]
}

/** What a policy may try; the best of all policies may try everything that is allowed. */
export interface Restricted {
  /** whether a step may follow once a set was tried */
  readonly mayFollow?: (step: number, tried: number) => boolean
  /** the step that has to be tried now, where there is one; it has to be allowed */
  readonly forced?: (history: History) => number | null
}

/**
 * The best policy of a problem, exactly: dynamic programming over everything that can have come of each step. A step has
 * three values (not tried, worked, failed) where nothing can make it void, else four. Throws a RangeError above 8 steps.
 */
export function bestPolicy(problem: Problem, restricted: Restricted = FREE): Policy {
  return solverOf(problem)(1, restricted)
}

/**
 * Solves one problem again and again: with everything that is wanted worth so many times as much, or restricted. What is
 * costly is worked out once.
 */
export function solverOf(problem: Problem): (scale: number, restricted?: Restricted) => Policy {
  const count = problem.steps.length
  if (count > MAX_EXACT) throw new RangeError(`${count} steps are more than ${MAX_EXACT}`)
  const tables = tablesOf(problem)
  return (scale, restricted = FREE) => solve(problem, tables, scale, restricted)
}

const FREE: Restricted = {}

/** By set of steps: those that are not in it. */
const restsOf = keptBy((count: number): readonly Int8Array[] =>
  Array.from({ length: 1 << count }, (_, tried) =>
    Int8Array.from(Array.from({ length: count }, (__, step) => step).filter((step) => !(tried & (1 << step)))),
  ),
)

interface Tables {
  readonly histories: Histories
  readonly beliefs: Beliefs
  /** by step and history of what was seen: the worth of what the step adds when it works, times the weight of that; null where it brings nothing */
  readonly gains: readonly (Float64Array | null)[]
  /** by step and history of what was seen: the chance that its copy can be got at; null for steps without harm */
  readonly got: readonly (Float64Array | null)[]
  /** by step and set worked: what it would destroy; null where that is nothing */
  readonly harms: readonly (Float64Array | null)[]
  /** by step and set tried: the chance that it is not void */
  readonly open: readonly Float64Array[]
  /** by step and set tried: what is left of its worth when it comes that late */
  readonly inTime: readonly Float64Array[]
  /** by step: the set of those that have to have worked before it */
  readonly required: readonly number[]
  /** by history: whether everything that was tried was allowed then */
  readonly isPossible: Uint8Array
}

function tablesOf(problem: Problem): Tables {
  const { steps } = problem
  const times = timesOf(problem)
  const bySet = (of: (step: number, set: number) => number) =>
    steps.map((_, step) => tableOf(problem, step, (set) => of(step, set)))
  const open = bySet(times.open)
  const beliefs = beliefsOf(problem)
  const canBeVoid = open.map((table) => table.some((chance) => chance < SURE))
  const histories = historiesOf(beliefs.places, canBeVoid)
  const required = steps.map(({ requires }) => setOf(requires))
  return {
    histories,
    beliefs,
    gains: steps.map((_, step) => (beliefs.plain[step] === null ? gainTable(problem, step, beliefs) : null)),
    got: steps.map(({ harm }, step) => (harm > 0 ? gotTable(problem, step, beliefs) : null)),
    harms: steps.map(({ harm }, step) =>
      harm > 0 ? tableOf(problem, step, (worked) => harmAfter(problem, step, worked)) : null,
    ),
    open,
    inTime: bySet(times.inTime),
    required,
    isPossible: possibleAmong(histories, required),
  }
}

const setOf = (steps: readonly number[]) => steps.reduce((so, step) => so | (1 << step), 0)
const isMet = (required: number, worked: number) => (worked & required) === required

/** By set of steps without this one: some figure of it. */
function tableOf({ steps }: Problem, step: number, of: (set: number) => number): Float64Array {
  const table = new Float64Array(1 << steps.length).fill(1)
  for (let set = 0; set < table.length; set++) if (!(set & (1 << step))) table[set] = of(set)
  return table
}

function possibleAmong({ count, tried, worked }: Histories, required: readonly number[]): Uint8Array {
  const isPossible = new Uint8Array(count).fill(1)
  for (const [step, needed] of required.entries())
    if (needed > 0)
      for (let at = 0; at < count; at++) if (tried[at]! & (1 << step) && !isMet(needed, worked[at]!)) isPossible[at] = 0
  return isPossible
}

/** The histories of what was seen after which a step may be tried. What tells nothing has no digit: it may have worked. */
function openTo({ steps }: Problem, step: number, { plain, places, whole, worked }: Beliefs): number[] {
  const required = setOf(steps[step]!.requires.filter((other) => plain[other] === null))
  const histories: number[] = []
  for (let seen = 0; seen < whole.length; seen++)
    if (whole[seen]! > 0 && digitOf(seen, places[step]!) === 0 && isMet(required, worked[seen]!)) histories.push(seen)
  return histories
}

function gainTable(problem: Problem, step: number, beliefs: Beliefs): Float64Array {
  const { places, weights, whole, worked } = beliefs
  const count = problem.states.length
  const worthIn = worthsOf(problem)
  const gain = new Float64Array(whole.length)
  for (const seen of openTo(problem, step, beliefs)) {
    const from = (seen + places[step]!) * count
    const before = worthIn(worked[seen]!)
    const after = worthIn(worked[seen]! | (1 << step))
    let sum = 0
    for (let state = 0; state < count; state++) sum += weights[from + state]! * (after[state]! - before[state]!)
    gain[seen] = sum
  }
  return gain
}

function gotTable(problem: Problem, step: number, beliefs: Beliefs): Float64Array {
  const { plain, places, weights, whole } = beliefs
  const table = new Float64Array(whole.length)
  // What tells nothing is alone on its copy, and can be got at alike before and after.
  if (plain[step] !== null) return table.fill(problem.states[0]!.access[problem.steps[step]!.group]!)
  const members = stepsByGroup(problem).find((group) => group.includes(step))!
  const got = gotOn(problem, members)
  const count = problem.states.length
  const first = places[members[0]!]!
  const own = 3 ** members.length
  for (const seen of openTo(problem, step, beliefs)) {
    const from = (((seen / first) | 0) % own) * count
    let sum = 0
    for (let state = 0; state < count; state++) sum += weights[seen * count + state]! * got[from + state]!
    table[seen] = sum / whole[seen]!
  }
  return table
}

/** What a restricted policy may try after a history: the step that it must try, or what may follow. */
function followersOf(at: number, rest: Int8Array, { histories }: Tables, { mayFollow, forced }: Restricted) {
  const must = forced?.(historyAt(histories, at)) ?? null
  if (must !== null) return { steps: Int8Array.of(must), isForced: true }
  return { steps: mayFollow ? rest.filter((step) => mayFollow(step, histories.tried[at]!)) : rest, isForced: false }
}

function solve(problem: Problem, tables: Tables, scale: number, restricted: Restricted): Policy {
  const { steps } = problem
  const { histories, beliefs, gains, got, harms, open, inTime, required, isPossible } = tables
  const { plain, places, whole } = beliefs
  const best = new Float64Array(histories.count)
  const choice = new Int8Array(histories.count).fill(-1)
  const firsts: (number | null)[] = steps.map(() => null)
  const rests = restsOf(steps.length)
  for (let at = histories.count - 1; at >= 0; at--) {
    const seen = histories.seen[at]!
    const weight = whole[seen]!
    if (weight <= 0 || !isPossible[at]) continue
    const tried = histories.tried[at]!
    const worked = histories.worked[at]!
    const { steps: followers, isForced } =
      restricted === FREE
        ? { steps: rests[tried]!, isForced: false }
        : followersOf(at, rests[tried]!, tables, restricted)
    // A step that has to be tried is, whatever it is worth.
    let most = isForced ? -Infinity : 0
    let chosen = -1
    let ownOfChosen = 0
    for (let turn = 0; turn < followers.length; turn++) {
      const step = followers[turn]!
      if (!isMet(required[step]!, worked)) continue
      const place = histories.places[step]!
      const { cost, take } = steps[step]!
      const isOpen = open[step]![tried]!
      const works = plain[step] ?? whole[seen + places[step]!]! / weight
      const gain = gains[step]?.[seen] ?? 0
      const harm = harms[step] ? got[step]![seen]! * harms[step]![worked]! : 0
      const own = isOpen * ((scale * inTime[step]![tried]! * gain) / weight - works * take - harm) - cost
      let worth = own + isOpen * (works * best[at + place]! + (1 - works) * best[at + 2 * place]!)
      if (isOpen < SURE) worth += (1 - isOpen) * best[at + 3 * place]!
      if (at === 0) firsts[step] = worth
      // Of steps worth the same, the one that gains sooner is preferred.
      if (worth > most + EPSILON || (chosen >= 0 && worth > most - EPSILON && own > ownOfChosen + EPSILON)) {
        most = Math.max(most, worth)
        chosen = step
        ownOfChosen = own
      }
    }
    best[at] = most
    choice[at] = chosen
  }
  return {
    next: (history) => {
      const step = choice[placeOf(histories, history)]!
      return step < 0 ? null : step
    },
    value: best[0]!,
    firsts,
  }
}
