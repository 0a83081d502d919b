import type { Considered } from './consider'
import { asksOf } from './asks'
import { buildProblem, type Built } from '../order/build-problem'
import { forecastsOf, meanShareOf } from './forecast'
import { jointOf, type Joint, type Moving } from '../order/joint'
import type { Answer } from '../order/unknowns'
import { bestOrders } from '../order/order'
import { isPreparation } from '../order/preparations'
import type { PlanQuestion } from '../situation/plan-shape'
import { playBuilt } from '../order/play'
import { givenStates } from '../order/problem'

/** In money: a fact worth less than this is not asked for. */
const WORTH_ASKING = 0.01

/** With many options, only this many facts are examined, those that move most first. */
const mostAsked = (options: number) => (options > 10 ? 6 : options > 8 ? 10 : 24)

/**
 * For each unknown fact what knowing it would be worth: the expected value of the best plans under its
 * answers, less the value of the best plan without it (expected value of perfect information; H. Raiffa,
 * Decision Analysis, 1968, ch. 2), and the expected share under each answer. Those worth most come first.
 */
export function questionsOf(considered: Considered): PlanQuestion[] {
  const { unknowns, joint, situation } = considered
  const isSettled = (fact: string) => situation.ofCase.notKnown.includes(fact)
  const alone: PlanQuestion[] = []
  const open = unknowns.moving.filter((moving) => !isSettled(moving.unknown.fact))
  for (const moving of open.slice(0, mostAsked(considered.live.length))) {
    const isIn = joint.dimensions.includes(moving)
    const told = isIn ? joint : jointOf(unknowns, [moving.unknown])
    const built = isIn ? considered.built : builtFor(considered, told)
    const question = questionOn(moving, told, built, considered)
    if (question.gain >= WORTH_ASKING) alone.push(question)
  }
  return alone.sort((one, other) => other.gain - one.gain)
}

const builtFor = ({ live, axes, situation }: Considered, joint: Joint) =>
  buildProblem(live, joint, axes, situation, situation.now)

function questionOn(
  { unknown }: Moving,
  joint: Joint,
  { problem, columns }: Built,
  { live, axes, situation }: Considered,
): PlanQuestion {
  const dimension = joint.dimensions.findIndex((one) => one.unknown === unknown)
  const parts = unknown.answers.map((_, answer) =>
    joint.states.flatMap((state, at) => (state.answers[dimension] === answer ? [at] : [])),
  )
  const best = bestOrders(problem, parts)
  const answers: Record<string, number> = {}
  const leads: Record<string, string | null> = {}
  const sets: Record<string, unknown> = {}
  let asked = 0
  for (const [index, answer] of unknown.answers.entries()) {
    const { steps, value } = best.parts[index]!
    const given = givenStates(
      problem,
      parts[index]!.map((at) => problem.states[at]!),
    )
    asked += answer.probability * value
    const played = playBuilt({ problem: given, columns }, steps)
    answers[answer.value] = meanShareOf(forecastsOf(axes, { low: played, mid: played, high: played }))[1]
    const said = saidAs(unknown.fact, answer)
    if (said !== undefined) sets[answer.value] = said
    leads[answer.value] = steps.map((step) => live[step]!).find((option) => !isPreparation(option))?.id ?? null
  }
  return {
    fact: unknown.fact,
    asks: asksOf(unknown.fact, situation.ofCase),
    gain: Math.max(0, asked - best.whole.value),
    answers,
    leads,
    sets,
  }
}

/** What the client's answer means for the fact: a password that is said to be known has not opened anything yet. */
function saidAs(fact: string, { suppose, value }: Answer): unknown {
  if (fact.endsWith('.password') && value === 'opened') return 'thought-known'
  if (fact.startsWith('secrets.') && value === 'opened') return 'known'
  if (fact === 'limits.money' && value === 'less') return undefined
  return suppose[0]?.is
}
