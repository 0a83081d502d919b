import type { Axis } from '../situation/axis'
import type { RouteOption } from '../figures/options'
import { stepGain, type Worths } from '../order/order'
import type { Standing } from '../situation/plan-shape'
import type { Problem } from '../order/problem'

/** How the solved problem treats an option. */
export interface Placed {
  readonly index: number
  readonly problem: Problem
  readonly worths: Worths
  readonly order: readonly number[]
  readonly live: readonly RouteOption[]
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
  if (!placed && !aside.has(option.id)) return { standing: 'not-worth-it', says: notWorthWords(option, 0, 1) }
  if (!placed)
    return {
      standing: 'not-worth-it',
      says: 'More routes are open than can be compared at once; this one promises least.',
    }
  if (placed.order.includes(placed.index)) return { standing: 'plan', says: inPlanWords(option) }
  return leftOut(option, placed)
}

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

function leftOut(option: RouteOption, { index, problem, worths, order, live }: Placed): Verdict {
  const after = stepGain(problem, order, index, worths)
  const alone = stepGain(problem, [], index, worths)
  if (option.harm > 0 && after.gain - after.price > 0)
    return { standing: 'harmful', says: option.harmSays ?? 'It would destroy what is newer on the device.' }
  const coverer = order
    .map((step) => ({ step, left: stepGain(problem, [step], index, worths).gain }))
    .reduce<{ step: number; left: number } | null>((best, one) => (!best || one.left < best.left ? one : best), null)
  if (option.harm > 0 && alone.gain > 0)
    return {
      standing: 'harmful',
      says: `${option.harmSays ?? ''} It would bring little that the plan does not.`.trim(),
    }
  if (coverer && alone.gain - alone.price > 0 && coverer.left < alone.gain)
    return {
      standing: 'covered',
      says: `Brings little that route ${order.indexOf(coverer.step) + 1} (${live[coverer.step]!.title}) does not.`,
    }
  return { standing: 'not-worth-it', says: notWorthWords(option, after.gain, after.price) }
}

function notWorthWords(option: RouteOption, gain: number, price: number): string {
  const share = Math.round(option.chance[1] * option.meanShare[1] * 100)
  const { money } = option.binding.kind
  const isPaid = money.look + money.take > 0
  const cost = isPaid ? `costs up to ${money.look + money.take}` : `takes ${Math.round(option.handsOn)} minutes`
  const weakest = [...option.chanceFactors, ...option.shareFactors()].reduce((least, factor) =>
    factor.value[1] < least.value[1] ? factor : least,
  )
  const why = weakest.value[1] < 0.5 ? ` ${weakest.says()}` : ''
  return gain < price && share > 0
    ? `Likely recovers ${share}% and ${cost}.${why}`
    : `Promises less than it ${isPaid ? 'costs' : 'takes'}.${why}`
}
