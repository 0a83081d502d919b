import type { Axis } from '../situation/axis'
import type { RouteOption } from '../figures/options'
import type { Course } from '../order/course'
import { NOTHING_TRIED } from '../order/histories'
import { neededFor, worthAlone } from '../order/planned'
import type { Standing } from '../situation/plan-shape'
import type { Problem } from '../order/problem'
import { trialOf } from '../order/trial'

/** How the solved problem treats an option. */
export interface Placed {
  readonly index: number
  readonly problem: Problem
  readonly course: Course
  readonly live: readonly RouteOption[]
  /** from what worth of everything up it would be tried, in money */
  readonly worthFrom: number | null
}

export interface Verdict {
  readonly standing: Standing
  readonly says: string
}

/** A chance below this is said as the reason; above it the route is simply described. */
const WORTH_SAYING = 0.9

/**
 * Why a route has its place. One that is not in the order is closed, would do harm, is covered by another, or is not
 * worth its minutes and money.
 */
export function standingOf(
  option: RouteOption,
  placed: Placed | null,
  aside: ReadonlySet<string>,
  axes: readonly Axis[],
): Verdict {
  if (axes.length > 0 && axes.every((axis) => axis.slices.every((slice) => slice.missing === 0)))
    return { standing: 'covered', says: 'Everything that is wanted is back.' }
  if (option.closedBy !== null) return { standing: 'closed', says: option.closedBy }
  if (!placed && !aside.has(option.id)) return { standing: 'not-worth-it', says: notWorthWords(option, null) }
  if (!placed)
    return {
      standing: 'not-worth-it',
      says: 'More routes are open than can be compared at once; this one promises least.',
    }
  if (placed.course.order.includes(placed.index))
    return { standing: 'plan', says: `${worthWords(placed)}${inPlanWords(option)}` }
  return leftOut(option, placed)
}

/** What is in the plan although nothing is worth its price is there from some worth up. */
const worthWords = ({ worthFrom }: Placed) => (worthFrom === null ? '' : `Worth it from about ${worthFrom} up. `)

function inPlanWords(option: RouteOption): string {
  const weak = [...option.chanceFactors, ...option.shareFactors()].filter(
    (factor) => factor.name !== 'works' && factor.name !== 'finds',
  )
  const weakest = weak.reduce<(typeof weak)[number] | null>(
    (least, factor) => (!least || factor.value[1] < least.value[1] ? factor : least),
    null,
  )
  const reason = weakest && weakest.value[1] < WORTH_SAYING ? weakest.says() : option.binding.kind.says
  const isSaid = (one: string) => reason.toLowerCase().includes(lowered(one).toLowerCase())
  const cure = option.cures.find((one) => !isSaid(one))
  return cure ? `${reason} If need be: ${lowered(cure)}.` : reason
}

const lowered = (sentence: string) => sentence.charAt(0).toLowerCase() + sentence.slice(1).replace(/\.$/, '')

function leftOut(option: RouteOption, placed: Placed): Verdict {
  const { index, problem, course, live } = placed
  const alone = worthAlone(problem, index)
  if (option.harm > 0 && alone <= 0 && worthAlone(problem, index, true) > 0)
    return { standing: 'harmful', says: option.harmSays ?? 'It would destroy what is newer on the device.' }
  const coverer = covererOf(problem, course, index)
  // What some branch tries, but hardly ever, is covered by what comes before it there.
  if (coverer !== null && (alone > 0 || course.tried[index]! > 0)) {
    const route = `route ${course.order.indexOf(coverer) + 1} (${live[coverer]!.title})`
    return { standing: 'covered', says: `Brings little that ${route} does not.` }
  }
  return { standing: 'not-worth-it', says: notWorthWords(option, placed) }
}

/** The step of the plan whose success leaves least for another to bring; null where none leaves less than there was. */
function covererOf(problem: Problem, { order }: Course, index: number): number | null {
  const needed = neededFor(problem, index)
    .filter((step) => step !== index)
    .reduce((so, step) => so | (1 << step), 0)
  const left = (worked: number) => trialOf(problem, { ...NOTHING_TRIED, worked: needed | worked }, index).adds
  const before = left(0)
  return (
    order
      .map((step) => ({ step, left: left(1 << step) }))
      .filter((one) => one.left < before)
      .reduce<{ step: number; left: number } | null>((best, one) => (!best || one.left < best.left ? one : best), null)
      ?.step ?? null
  )
}

/** What a route that is not worth trying would bring, and what of its price decided that. */
function notWorthWords(option: RouteOption, placed: Placed | null): string {
  const share = Math.round(option.chance[1] * option.meanShare[1] * 100)
  const { money } = option.binding.kind
  const days = Math.round(option.waiting / 1440)
  const cost =
    money.look + money.take > 0
      ? `costs up to ${money.look + money.take}`
      : days >= 2 && option.handsOn < 30
        ? `its answer takes ${days} days`
        : `takes ${Math.round(option.handsOn)} minutes`
  const weakest = [...option.chanceFactors, ...option.shareFactors()].reduce((least, factor) =>
    factor.value[1] < least.value[1] ? factor : least,
  )
  const why = weakest.value[1] < 0.5 ? ` ${weakest.says()}` : ''
  const from = placed?.worthFrom == null ? '' : ` Worth it from about ${placed.worthFrom} up.`
  return share > 0
    ? `Likely recovers ${share}% and ${cost}.${why}${from}`
    : `Promises less than it takes; it ${cost}.${why}`
}
