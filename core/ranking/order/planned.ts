import { DAY_MS } from '../../cases/shape/moment'
import { NOTHING_TRIED, type History } from './histories'
import { bestPolicy, type Policy, type Restricted } from './policy'
import { MAX_EXACT, withOnly, type Problem } from './problem'
import { timesOf } from './times'
import { trialOf } from './trial'

/** A policy over all steps of a problem, of which the ones worth most are solved exactly. */
export interface Planned {
  readonly next: Policy['next']
  /** in money: what the exact part is worth */
  readonly value: number
  /** the steps that were solved exactly */
  readonly exact: readonly number[]
}

/**
 * What to try of any number of steps. Up to 8 are solved exactly; of more, the 8 that are worth most on their own, with
 * what they need. The rest follow where these end, what is expected to bring most for its price first.
 */
export function plannedFor(problem: Problem, exact: readonly number[] = exactSteps(problem)): Planned {
  const of = withOnly(problem, exact)
  const policy = bestPolicy(of)
  const next = widened(exact, policy.next, firstAmongEqual(of, policy))
  return {
    next: exact.length < problem.steps.length ? followed(problem, exact, next) : next,
    value: policy.value,
    exact,
  }
}

/** The same under restrictions, without regard to what is equal. */
export function restrictedFor(problem: Problem, exact: readonly number[], restricted: Restricted): Planned {
  const policy = bestPolicy(withOnly(problem, exact), restricted)
  return { next: widened(exact, policy.next), value: policy.value, exact }
}

/** A policy over some of the steps, told with their places among all of them; `first` begins it, where there is one. */
export function widened(exact: readonly number[], next: Policy['next'], first: number | null = null): Policy['next'] {
  const within = (set: number) => exact.reduce((so, step, place) => (set & (1 << step) ? so | (1 << place) : so), 0)
  return (history) => {
    const { worked, failed, void: closed } = history
    const inside: History = { worked: within(worked), failed: within(failed), void: within(closed) }
    const isStart = inside.worked + inside.failed + inside.void === 0
    const step = isStart && first !== null ? first : next(inside)
    return step === null ? null : exact[step]!
  }
}

/** The steps that are solved exactly: all of them, or those worth most on their own, with what has to come before them. */
export function exactSteps(problem: Problem, first: readonly number[] = []): number[] {
  const all = problem.steps.map((_, index) => index)
  if (all.length <= MAX_EXACT) return all
  const alone = all.map((step) => worthAlone(problem, step))
  const kept = new Set<number>()
  for (const step of [...first, ...all.toSorted((one, other) => alone[other]! - alone[one]!)]) {
    const more = neededFor(problem, step).filter((one) => !kept.has(one))
    if (kept.size + more.length <= MAX_EXACT) for (const one of more) kept.add(one)
  }
  return all.filter((step) => kept.has(step))
}

/** A step, after everything that has to have worked before it. */
export function neededFor(problem: Problem, step: number): number[] {
  return [...new Set([...problem.steps[step]!.requires.flatMap((before) => neededFor(problem, before)), step])]
}

/** In money: what a step is worth if nothing else is tried but what it needs. */
export function worthAlone(problem: Problem, step: number, isHarmFree = false): number {
  let history = NOTHING_TRIED
  let still = 1
  let worth = 0
  for (const one of neededFor(problem, step)) {
    const { adds, price, harm, open, works } = trialOf(problem, history, one)
    worth += still * (adds - price - (isHarmFree ? 0 : harm))
    still *= open * works
    history = { ...history, worked: history.worked | (1 << one) }
  }
  return worth
}

/** A window falls where it loses this much within a day. */
const FALLS = 0.02

/** Of routes that are as good as equal first, those count as equally promising that promise this part of the best. */
const PROMISES = 2 / 3

/**
 * Among policies that are as good as equal, the step to begin with: one without harm that is worth trying alone. First
 * comes the one whose window falls most within a day, where what a day would take outweighs what it costs to go first and
 * is no trifle itself; where there is none, of those that promise about as much as the best the one whose answer is there
 * sooner (docs/decisions/0006). Null where nothing is tried.
 */
function firstAmongEqual(problem: Problem, { value, firsts, next }: Policy): number | null {
  const best = next(NOTHING_TRIED)
  if (best === null) return null
  const times = timesOf(problem)
  const equal = firsts.flatMap((worth, step) => {
    const { harm, closesByUse } = problem.steps[step]!
    if (worth === null || worth <= 0 || worth < value - problem.tie || harm > 0) return []
    if (worthAlone(problem, step) <= 0) return []
    const promise = trialOf(problem, NOTHING_TRIED, step).adds
    const falls = closesByUse ? 0 : 1 - times.left(step, DAY_MS)
    const taken = falls * promise
    const isFalling = falls >= FALLS && taken > value - worth && taken >= problem.tie
    return [{ step, worth, promise, falls: isFalling ? falls : 0, there: times.gone(1 << step) }]
  })
  const most = (of: (one: (typeof equal)[number]) => number, among = equal) =>
    among.reduce((first, one) => (of(one) > of(first) ? one : first))
  const deepest = equal.length > 0 ? most(({ falls }) => falls).falls : 0
  const falling = equal.filter(({ falls }) => falls > 0 && falls > deepest - FALLS)
  if (falling.length > 0) return most(({ worth }) => worth, falling).step
  const least = PROMISES * Math.max(promiseOfBest(problem, next), ...equal.map(({ promise }) => promise))
  const promising = equal.filter(({ promise }) => promise >= least)
  if (promising.length === 0) return best
  const soonest = Math.min(...promising.map(({ there }) => there))
  return most(
    ({ worth }) => worth,
    promising.filter(({ there }) => there === soonest),
  ).step
}

/** What the first step of the best policy that brings anything promises, once what comes before it has worked. */
function promiseOfBest(problem: Problem, next: Policy['next']): number {
  let history = NOTHING_TRIED
  for (let step = next(history); step !== null; step = next(history)) {
    const { adds } = trialOf(problem, history, step)
    if (adds > 0) return adds
    history = { ...history, worked: history.worked | (1 << step) }
  }
  return 0
}

/** Where the exact part ends, the other steps follow while they are expected to bring more than they cost. */
function followed(problem: Problem, exact: readonly number[], next: Policy['next']): Policy['next'] {
  const rest = problem.steps.flatMap((_, step) => (exact.includes(step) ? [] : [step]))
  const kept = new Map<string, number | null>()
  return (history) => {
    const step = next(history)
    if (step !== null) return step
    const key = `${history.worked} ${history.failed} ${history.void}`
    const before = kept.get(key)
    if (before !== undefined) return before
    const tried = history.worked | history.failed | history.void
    let best: { step: number; worth: number } | null = null
    for (const one of rest) {
      const isAllowed = problem.steps[one]!.requires.every((needed) => history.worked & (1 << needed))
      if (tried & (1 << one) || !isAllowed) continue
      const { adds, price, harm } = trialOf(problem, history, one)
      if (adds - price - harm > (best?.worth ?? 0)) best = { step: one, worth: adds - price - harm }
    }
    kept.set(key, best?.step ?? null)
    return best?.step ?? null
  }
}
