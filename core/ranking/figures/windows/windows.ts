import { MINUTE_MS } from '../../../cases/shape/moment'
import type { Binding } from '../../../playbook/bind'
import type { RouteKind } from '../../../playbook/kinds/route-kind'
import type { Situation } from '../../situation/situation'
import type { MediumAsked } from '../survival'
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

/**
 * The window of a route: its own rule together with the client's deadline, and with a loss that is still ahead. The
 * survival function takes the time at which the route starts; where it must be finished before it closes, its own length
 * counts.
 */
export function windowOf(binding: Binding, medium: MediumAsked | null, minutes: number, situation: Situation): Closing {
  const lengthMs = minutes * MINUTE_MS
  const limits = both(deadlineClosing(situation), aheadClosing(binding, situation))
  return both(
    begunBefore(ownClosing(binding, medium, situation), binding.kind.by === 'done' ? lengthMs : 0),
    begunBefore(limits, lengthMs),
  )
}

/** A closing by which something of this length has to be finished, by the time at which it is begun. */
const begunBefore = (closing: Closing, lengthMs: number): Closing =>
  closing === NEVER || lengthMs === 0 ? closing : { ...closing, survival: (time) => closing.survival(time + lengthMs) }

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
