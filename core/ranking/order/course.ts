import type { Played, Try } from './play'
import { NOTHING_TRIED, type History } from './histories'
import type { Policy } from './policy'
import type { Problem } from './problem'
import { timesOf } from './times'

/** When each step of a plan is still tried. */
export interface Course {
  /** what is tried one after the other where preparations work and no route has brought anything yet */
  readonly branch: readonly number[]
  /** steps as shown: those that are tried while nothing has come back, then those that other branches try */
  readonly order: readonly number[]
  /** by step: the chance that it is tried */
  readonly tried: readonly number[]
  /** by step: it is tried only if less than this share of everything is back; null where that cannot be said */
  readonly until: readonly (number | null)[]
  /** by step: the route that must have worked before it; null where there is none */
  readonly after: readonly (number | null)[]
  /** by step: whether to begin with it at once, since its answer comes later */
  readonly beginAtOnce: readonly boolean[]
}

/** From this chance up nothing is said of when a step is tried, and down to that one it hardly ever is. */
export const NEARLY_ALWAYS = 0.95
export const HARDLY_EVER = 0.05

/** What of a case's worth was back before the plan began, and what all of it is worth, in money. */
export interface Stakes {
  readonly back: number
  readonly whole: number
}

/** The course of a policy that was played; `isRoute` tells routes from preparations, by step. */
export function courseOf(
  problem: Problem,
  next: Policy['next'],
  played: Played,
  isRoute: readonly boolean[],
  stakes: Stakes,
): Course {
  const { steps } = problem
  const tried = triedIn(problem, played)
  const branch = branchOf(next, played, isRoute)
  const share = (back: number) => (stakes.whole > 0 ? Math.min(1, (stakes.back + back) / stakes.whole) : 1)
  const others = steps
    .flatMap((_, step) => (tried[step]! >= HARDLY_EVER && !branch.includes(step) ? [step] : []))
    .sort((one, other) => tried[other]! - tried[one]!)
  const isSeldom = (step: number) => tried[step]! <= HARDLY_EVER
  return {
    branch,
    order: [...branch.filter((step) => !isSeldom(step)), ...others, ...branch.filter(isSeldom)],
    tried,
    until: steps.map((_, step) => (tried[step]! < NEARLY_ALWAYS ? untilOf(played, step, share) : null)),
    after: steps.map((_, step) => (branch.includes(step) ? null : afterOf(played, step, isRoute))),
    beginAtOnce: steps.map((_, step) => isWorthBeginning(problem, played, step, tried[step]!)),
  }
}

/** By step: the chance that it is tried. */
export function triedIn({ steps }: Problem, { tries }: Played): number[] {
  const tried = steps.map(() => 0)
  for (const { step, probability } of tries) tried[step] = tried[step]! + probability
  return tried
}

/** The first route of a policy, preparations before it taken to work; null where it tries none. */
export function firstRouteIn(next: Policy['next'], isRoute: readonly boolean[]): number | null {
  let history = NOTHING_TRIED
  for (let step = next(history); step !== null; step = next(history)) {
    if (isRoute[step]) return step
    history = { ...history, worked: history.worked | (1 << step) }
  }
  return null
}

const triesOf = ({ tries }: Played, step: number) => tries.filter((one) => one.step === step)
const sumOf = <T>(list: readonly T[], of: (one: T) => number) => list.reduce((sum, one) => sum + of(one), 0)
const isSame = (one: History, other: History) =>
  one.worked === other.worked && one.failed === other.failed && one.void === other.void
const setOf = ({ worked, failed, void: closed }: History) => worked | failed | closed

/** What is tried one after the other where preparations work and no route has brought anything yet. */
function branchOf(next: Policy['next'], { tries, endings }: Played, isRoute: readonly boolean[]): number[] {
  const occurs = (history: History) => [...tries, ...endings].some((one) => isSame(one.history, history))
  const branch: number[] = []
  let history: History | undefined = NOTHING_TRIED
  while (history) {
    const now: History = history
    const step: number | null = tries.some((one) => isSame(one.history, now)) ? next(now) : null
    if (step === null) break
    branch.push(step)
    const bit = 1 << step
    const worked: History = { ...history, worked: history.worked | bit }
    const without: History[] = [
      { ...history, failed: history.failed | bit },
      { ...history, void: history.void | bit },
    ]
    history = (isRoute[step] ? without : [worked, ...without]).find(occurs)
  }
  return branch
}

/** The least share that is back where the step is left out, if it is always less where it is tried. */
function untilOf(played: Played, step: number, share: (back: number) => number): number | null {
  const skipping = played.endings.filter(({ history }) => !(setOf(history) & (1 << step)))
  const trying = triesOf(played, step)
  if (skipping.length === 0 || trying.length === 0) return null
  const least = Math.min(...skipping.map(({ back }) => share(back)))
  const most = Math.max(...trying.map(({ back }) => share(back)))
  return most < least - 1e-9 ? least : null
}

/** The route that had worked in every branch that tries the step. */
function afterOf(played: Played, step: number, isRoute: readonly boolean[]): number | null {
  const trying = triesOf(played, step)
  if (trying.length === 0) return null
  const always = trying.reduce((so, { history }) => so & history.worked, -1)
  const routes = isRoute.flatMap((is, other) => (is && always & (1 << other) ? [other] : []))
  return routes[0] ?? null
}

/**
 * Whether a step whose answer comes later gains more by being begun now than it would cost where it turns out not to be
 * needed.
 */
function isWorthBeginning(problem: Problem, played: Played, step: number, tried: number): boolean {
  const { requires, harm, cost, answersLater } = problem.steps[step]!
  if (!answersLater || harm > 0 || requires.length > 0 || tried <= 0) return false
  const times = timesOf(problem)
  const leftOf = (at: number) => times.open(step, at) * times.inTime(step, at)
  const gained = sumOf(triesOf(played, step), ({ probability, adds, history }: Try) => {
    const left = leftOf(setOf(history))
    return left > 0 ? (probability * adds * (leftOf(0) - left)) / left : 0
  })
  return gained > (1 - tried) * cost
}
