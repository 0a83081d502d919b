import { HOUR_MS, isoOf } from '../../cases/shape/moment'
import { countOf } from '../../cases/shape/wanted'
import type { Considered } from './consider'
import type { SetForecast, Plan } from '../situation/plan-shape'
import { forecastsOf } from './forecast'
import { nextOpening } from '../situation/opening-hours'
import { bestOrder } from '../order/order'
import { playBuilt } from '../order/play'

/** How far ahead the cost of waiting is computed. */
const WAIT_HOURS = 24

interface Today {
  readonly value: number
  readonly sets: readonly SetForecast[]
}

/**
 * What the best plan loses when it starts a day later, or when the shop opens next, with the same options and the same
 * unknowns.
 */
export function costOfWaiting(considered: Considered, today: Today): Plan['waiting'] {
  const { situation } = considered
  const opens = nextOpening(situation.now, situation.playbook.shop)
  return {
    hours: WAIT_HOURS,
    ...lostBy(considered, situation.now + WAIT_HOURS * HOUR_MS, today),
    opening: opens > situation.now ? { at: isoOf(opens), ...lostBy(considered, opens, today) } : null,
  }
}

function lostBy({ axes, builtAt }: Considered, start: number, today: Today) {
  const built = builtAt(start)
  const best = bestOrder(built.problem)
  const played = playBuilt(built, best.steps)
  const then = forecastsOf(axes, { low: played, mid: played, high: played })
  const items = axes.map((axis, index) => {
    const lost = (today.sets[index]!.share[1] - then[index]!.share[1]) * countOf(axis.wanted)
    return [axis.wanted.id, Math.max(0, lost)] as const
  })
  return { money: Math.max(0, today.value - best.value), items: Object.fromEntries(items) }
}
