import { worthsOf } from './brought'
import { NOTHING_TRIED, SURE, type History } from './histories'
import type { Policy } from './policy'
import type { Problem } from './problem'
import { trialOf } from './trial'

/** One way in which a policy can end. */
export interface Ending {
  readonly probability: number
  readonly history: History
  /** by joint state: its chance, given that it ended so */
  readonly beliefs: readonly number[]
  /** in money: the worth of what has come back by then */
  readonly back: number
  /** hands-on minutes, minutes of waiting and money spent up to then */
  readonly spent: Spent
}

export interface Spent {
  readonly hands: number
  readonly wait: number
  readonly money: number
}

const NOTHING_SPENT: Spent = { hands: 0, wait: 0, money: 0 }

/** One try of a step, in one of the branches in which it is tried. */
export interface Try {
  readonly step: number
  /** the chance that it comes to this */
  readonly probability: number
  readonly history: History
  /** in money: the worth of what has come back before */
  readonly back: number
  /** the chance that it works, void ones counted as not working */
  readonly works: number
  /** in money: what it is expected to add, before its price */
  readonly adds: number
}

/** What following a policy is expected to bring and to take. */
export interface Played {
  readonly endings: readonly Ending[]
  readonly tries: readonly Try[]
  /** in money: gains less costs and harms, over all branches */
  readonly value: number
  /** where it first brings something: the chance, and what was spent by then */
  readonly firsts: readonly { readonly probability: number; readonly spent: Spent }[]
}

/** A step that brings less than this share of every slice is no success yet. */
const WORTH_CALLING = 0.1

/**
 * Plays a policy forward, branch by branch: what is believed of the states follows what was seen, windows fall while time
 * passes. Branches less likely than `least` end where they are.
 */
export function play(problem: Problem, next: Policy['next'], least = 0): Played {
  const { steps, states } = problem
  const endings: Ending[] = []
  const tries: Try[] = []
  const firsts: { probability: number; spent: Spent }[] = []
  const worthIn = worthsOf(problem)
  const brings = steps.map((_, step) =>
    states.some((state) => state.share[step]!.some((share) => share >= WORTH_CALLING)),
  )
  let value = 0
  const go = (history: History, probability: number, beliefs: readonly number[], spent: Spent, hasSome: boolean) => {
    const step = probability > least ? next(history) : null
    const worth = worthIn(history.worked)
    const back = beliefs.reduce((sum, belief, at) => sum + belief * worth[at]!, 0)
    if (step === null) {
      endings.push({ probability, history, beliefs, spent, back })
      return
    }
    const { open, works, chances, adds, price, harm } = trialOf(problem, history, step, beliefs)
    const { look, take, hands, wait } = steps[step]!
    const bit = 1 << step
    value += probability * (adds - price - harm)
    tries.push({ step, probability, history, back, works: open * works, adds })
    const then = { hands: spent.hands + hands, wait: spent.wait + wait, money: spent.money + look }
    if (open * works > 0) {
      const paid = { ...then, money: then.money + take }
      if (brings[step]! && !hasSome) firsts.push({ probability: probability * open * works, spent: paid })
      go(
        { ...history, worked: history.worked | bit },
        probability * open * works,
        beliefs.map((belief, at) => (belief * chances[at]!) / works),
        paid,
        hasSome || brings[step]!,
      )
    }
    if (open * (1 - works) > 1e-15)
      go(
        { ...history, failed: history.failed | bit },
        probability * open * (1 - works),
        beliefs.map((belief, at) => (belief * (1 - chances[at]!)) / (1 - works)),
        then,
        hasSome,
      )
    if (open < SURE) go({ ...history, void: history.void | bit }, probability * (1 - open), beliefs, then, hasSome)
  }
  const prior = states.map(({ probability }) => probability)
  go(NOTHING_TRIED, 1, prior, NOTHING_SPENT, false)
  return { endings, tries, value, firsts }
}
