import { MINUTE_MS } from '../../../cases/shape/moment'
import type { Binding } from '../../../playbook/bind'
import type { RouteKind } from '../../../playbook/kinds/route-kind'
import type { Situation } from '../../situation/situation'
import type { MediumAsked } from '../medium'
import { endedClosing } from './account-ended'
import { aheadClosing } from './ahead'
import { deadlineClosing } from './deadline'
import { fades } from './fades'
import { kept } from './kept'
import { online } from './online'
import { replaced } from './replaced'
import { reused } from './reused'
import { rolled } from './rolled'
import { synced } from './synced'
import { NEVER, type Closing, type WindowRule } from './window-rule'

type Name = RouteKind['window']['rule']

/** Every window rule, by its name in the playbook. A new one is one file, its sample in the test, a line here and one in the playbook's schema. */
export const WINDOW_RULES: { readonly [Rule in Name]: WindowRule<Rule> } = {
  open: () => NEVER,
  kept,
  replaced,
  fades,
  synced,
  reused,
  online,
  rolled,
}

/** How long a route takes, in minutes: hands-on, and a wait that is a range. */
export interface Length {
  readonly handsOn: number
  readonly waiting: readonly [low: number, high: number]
}

/**
 * The range of a wait (minutes) that the playbook gives as one figure: half to one and a half times as long, but what is
 * read of a medium of known size takes a fifth more or less.
 */
export const waitRange = (waiting: number, reading: number): Length['waiting'] => [
  waiting * 0.5 + reading * 0.8,
  waiting * 1.5 + reading * 1.2,
]

/**
 * The window of a route: its own rule together with the client's deadline, and with a loss that is still ahead. The
 * survival function takes the time at which the route starts; where it must be finished before it closes, its own length
 * counts.
 */
export function windowOf(binding: Binding, medium: MediumAsked | null, length: Length, situation: Situation): Closing {
  const limits = both(deadlineClosing(situation), aheadClosing(binding, situation))
  const own = both(ownClosing(binding, medium, situation), endedClosing(binding.copy, situation))
  return both(binding.kind.by === 'done' ? begunBefore(own, length) : own, begunBefore(limits, length))
}

/** Waits that differ by less than this count as one. */
const NARROW_MINUTES = 30

/** A closing by which something of this length has to be finished, by the time at which it is begun. */
function begunBefore(closing: Closing, { handsOn, waiting: [low, high] }: Length): Closing {
  if (closing === NEVER || handsOn + high === 0) return closing
  const least = (handsOn + low) * MINUTE_MS
  const most = (handsOn + high) * MINUTE_MS
  if (high - low < NARROW_MINUTES)
    return { ...closing, survival: (time) => closing.survival(time + (least + most) / 2) }
  return { ...closing, survival: (time) => meanSurvival(closing, time + least, time + most) }
}

/** Points at which a stretch without a corner is looked at; they give a straight line exactly. */
const POINTS = 4

/** The mean of a survival function between two times, cut where it begins and ends to fall. */
function meanSurvival({ survival, earliest, latest }: Closing, from: number, to: number): number {
  const corners = [earliest, latest].filter((time): time is number => time !== null && time > from && time < to)
  const edges = [from, ...corners, to]
  let sum = 0
  for (const [at, edge] of edges.slice(1).entries()) {
    const begin = edges[at]!
    for (let point = 0; point < POINTS; point++)
      sum += ((edge - begin) / POINTS) * survival(begin + ((edge - begin) * (point + 0.5)) / POINTS)
  }
  return sum / (to - from)
}

/** Two closings that both have to be met. */
function both(one: Closing, other: Closing): Closing {
  if (one === NEVER || other === NEVER) return one === NEVER ? other : one
  const first = earlier(one, other)
  return {
    survival: (time) => one.survival(time) * other.survival(time),
    earliest: leastOf(one.earliest, other.earliest),
    latest: leastOf(one.latest, other.latest),
    fact: first.fact,
    says: first.says,
  }
}

const leastOf = (one: number | null, other: number | null) =>
  one === null ? other : other === null ? one : Math.min(one, other)
const earlier = (one: Closing, other: Closing) =>
  one.earliest === null || (other.earliest !== null && other.earliest < one.earliest) ? other : one

function ownClosing(binding: Binding, medium: MediumAsked | null, situation: Situation): Closing {
  const { window } = binding.kind
  return (WINDOW_RULES[window.rule] as WindowRule<Name>)(window, { binding, medium, situation })
}
