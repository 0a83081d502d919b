import type { Considered } from './consider'
import { expectedShareOf, LEAST } from './expected'
import { asksOf } from './asks'
import { buildProblem, type Built } from '../order/build-problem'
import { missingCopies, reopening } from './not-open-yet'
import { jointOf, type Joint, type Moving } from '../order/joint'
import type { Answer } from '../order/unknowns'
import type { RouteOption } from '../figures/options'
import { plannedFor, type Planned } from '../order/planned'
import { firstRouteIn } from '../order/course'
import { isPreparation } from '../order/preparations'
import type { PlanQuestion } from '../situation/plan-shape'
import { play } from '../order/play'
import { givenStates, withOnly, type Problem } from '../order/problem'
import { keptBy } from '../situation/kept-by'

/** In money: a fact worth less than this is not asked for. */
const WORTH_ASKING = 0.01

/** With many options, only this many facts are examined, those that move most first. */
const mostAsked = (options: number) => (options > 7 ? 8 : options > 6 ? 12 : 24)

/**
 * For each unknown fact what knowing it would be worth: the plan made knowing the answer, less the plan made without it
 * and carried out under that answer, on average over the answers (expected value of perfect information; H. Raiffa,
 * Decision Analysis, 1968, ch. 2), and the expected share under each answer. Those worth most come first.
 */
export function questionsOf(considered: Considered): PlanQuestion[] {
  const { unknowns, joint, situation, best, live, room } = considered
  const isSettled = (fact: string) => situation.ofCase.notKnown.includes(fact)
  const again = live.length === 0 ? reopening(considered) : []
  const others = [...missingCopies(considered, live.length === 0 && again.length === 0), ...again]
  const asked = others.filter(({ fact, gain }) => gain >= WORTH_ASKING && !isSettled(fact))
  const open = unknowns.moving.filter((moving) => !isSettled(moving.unknown.fact))
  const routes = best.exact.map((step) => live[step]!)
  const known = onlyExact(considered.built, best.exact)
  const unresolvedIn = keptBy((problem: Problem) => plannedFor(problem))
  for (const moving of open.slice(0, mostAsked(best.exact.length))) {
    const isIn = joint.dimensions.includes(moving)
    const told = isIn ? joint : jointOf(unknowns, [moving.unknown], room)
    const built = isIn ? known : onlyExact(builtFor(considered, told), best.exact)
    const question = questionOn(moving, told, built, unresolvedIn(built.problem), routes, considered)
    if (question.gain >= WORTH_ASKING) asked.push(question)
  }
  return asked.sort((one, other) => other.gain - one.gain)
}

const builtFor = ({ live, axes, situation }: Considered, joint: Joint) =>
  buildProblem(live, joint, axes, situation, situation.now)

const onlyExact = (built: Built, exact: readonly number[]): Built => ({
  ...built,
  problem: withOnly(built.problem, exact),
})

function questionOn(
  { unknown }: Moving,
  joint: Joint,
  built: Built,
  unresolved: Planned,
  routes: readonly RouteOption[],
  { axes, situation }: Considered,
): PlanQuestion {
  const dimension = joint.dimensions.findIndex((one) => one.unknown === unknown)
  const isRoute = routes.map((option) => !isPreparation(option))
  const answers: Record<string, number> = {}
  const leads: Record<string, string | null> = {}
  const sets: Record<string, unknown> = {}
  let gain = 0
  for (const [index, answer] of unknown.answers.entries()) {
    const given = whereAnswered(built, (state) => joint.states[state]!.answers[dimension] === index)
    if (given.problem.states.length === 0) continue
    const knowing = plannedFor(given.problem)
    const without = play(given.problem, unresolved.next, LEAST).value
    gain += answer.probability * Math.max(0, knowing.value - without)
    answers[answer.value] = expectedShareOf(given, knowing.next, axes)[1]
    const said = saidAs(unknown.fact, answer)
    if (said !== undefined) sets[answer.value] = said
    const first = firstRouteIn(knowing.next, isRoute)
    leads[answer.value] = first === null ? null : routes[first]!.id
  }
  return { fact: unknown.fact, asks: asksOf(unknown.fact, situation.ofCase), gain, answers, leads, sets }
}

/** The problem where one answer holds. */
function whereAnswered(built: Built, holds: (state: number) => boolean): Built {
  const kept = built.origin.flatMap((state, at) => (holds(state) ? [at] : []))
  const { isHere } = built
  return {
    ...built,
    problem: givenStates(
      built.problem,
      kept.map((at) => built.problem.states[at]!),
    ),
    origin: kept.map((at) => built.origin[at]!),
    isHere: isHere && ((state, slice) => isHere(kept[state]!, slice)),
  }
}

/** What the client's answer means for the fact: a password that is said to be known has not opened anything yet. */
function saidAs(fact: string, { suppose, value }: Answer): unknown {
  if (fact.endsWith('.password') && value === 'opened') return 'thought-known'
  if (fact.startsWith('secrets.') && value === 'opened') return 'known'
  if (fact === 'limits.money' && value === 'less') return undefined
  return suppose[0]?.is
}
