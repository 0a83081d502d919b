import { breakEvenOf, breakEvenOfAll, scaledFor, type Scaled } from '../order/break-even'
import { courseOf, type Course, type Stakes } from '../order/course'
import { outcomeOf, type Outcome } from '../order/outcome'
import { play, type Played } from '../order/play'
import { widened } from '../order/planned'
import { NOTHING_TRIED } from '../order/histories'
import { isPreparation } from '../order/preparations'
import { withOnly } from '../order/problem'
import { worthOf } from '../situation/axis'
import { clamped } from '../situation/estimate'
import type { Considered } from './consider'
import { LEAST } from './expected'

/** The plan that is shown: its policy, what following it comes to, and when each step of it is still tried. */
export interface Shown {
  readonly course: Course
  readonly played: Played
  readonly outcomes: { readonly low: Outcome; readonly mid: Outcome; readonly high: Outcome }
  /** the first route: the chance that nothing follows once it has worked, what is back then, and what follows if it fails */
  readonly first: { readonly ends: number; readonly back: number; readonly then: number | null } | null
  /** by step: from what worth of everything up, in money, it would be tried; null where it is, or where none makes it so */
  readonly worthFrom: readonly (number | null)[]
}

/**
 * The best plan as it is shown. Where nothing is worth its price, it is the plan at the worth from which something would
 * be, so that a case with an open route never ends without one.
 */
export function shownPlanOf(considered: Considered, isWhole: boolean): Shown {
  const { built, best, live, axes, situation, builtAt } = considered
  const { problem } = built
  const weights = situation.playbook.shop.weights
  const isEmpty = best.next(NOTHING_TRIED) === null && live.length > 0
  const scaled = isEmpty || isWhole ? scaledFor(withOnly(problem, best.exact)) : null
  const times = isEmpty && scaled ? breakEvenOfAll(scaled) : null
  const next = times === null ? best.next : widened(best.exact, scaled!(times).policy.next)
  const played = play(problem, next, LEAST)
  const missing = axes.reduce((sum, axis) => sum + axis.slices.reduce((so, slice) => so + slice.worth, 0), 0)
  const whole = worthOf(situation.ofCase, weights)
  const isRoute = live.map((option) => !isPreparation(option))
  const stakes: Stakes = { back: whole - missing, whole }
  const course = courseOf(problem, next, played, isRoute, stakes)
  const inBound = (bound: 0 | 2) => {
    const at = builtAt(situation.now, bound)
    return outcomeOf(at, play(at.problem, next, LEAST))
  }
  return {
    course,
    played,
    outcomes: { low: inBound(0), mid: outcomeOf(built, played), high: inBound(2) },
    first: firstOf(played, course.branch, isRoute, stakes),
    worthFrom: live.map((_, step) => {
      if (times !== null && course.order.includes(step)) return rounded(whole * times)
      const place = best.exact.indexOf(step)
      if (!isWhole || !isRoute[step] || place < 0 || course.order.includes(step)) return null
      const more = breakEvenOf(scaled as Scaled, place)
      return more === null || more <= 1 ? null : rounded(whole * more)
    }),
  }
}

function firstOf(
  { endings }: Played,
  branch: readonly number[],
  isRoute: readonly boolean[],
  stakes: Stakes,
): Shown['first'] {
  const at = branch.findIndex((step) => isRoute[step])
  if (at < 0) return null
  const worked = branch.slice(0, at + 1).reduce((so, step) => so | (1 << step), 0)
  const ended = endings.filter(({ history }) => history.worked === worked && history.failed + history.void === 0)
  const ends = ended.reduce((sum, { probability }) => sum + probability, 0)
  const worth = ended.reduce((sum, { probability, back }) => sum + probability * back, 0)
  return {
    ends,
    back: ends > 0 && stakes.whole > 0 ? clamped((stakes.back + worth / ends) / stakes.whole) : 0,
    then: branch.slice(at + 1).find((step) => isRoute[step]) ?? null,
  }
}

/** Two digits are all that such a figure can bear. */
function rounded(worth: number): number {
  const unit = 10 ** Math.max(0, Math.floor(Math.log10(worth)) - 1)
  return Math.ceil(worth / unit - 1e-9) * unit
}
