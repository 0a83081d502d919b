import { HOUR_MS, isoOf } from '../../cases/shape/moment'
import { countOf } from '../../cases/shape/wanted'
import type { Considered } from './consider'
import type { SetForecast, Plan } from '../situation/plan-shape'
import { expectedOf } from './expected'
import { nextOpening } from '../situation/opening-hours'
import { plannedFor } from '../order/planned'

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

function lostBy({ axes, builtAt, best }: Considered, start: number, today: Today) {
  const built = builtAt(start)
  const later = plannedFor(built.problem, best.exact)
  const then = expectedOf(built, later.next, axes)
  const items = axes.map((axis, index) => {
    const lost = (today.sets[index]!.share[1] - then[index]!.share[1]) * countOf(axis.wanted)
    return [axis.wanted.id, Math.max(0, lost)] as const
  })
  return { money: Math.max(0, today.value - later.value), items: Object.fromEntries(items) }
}
