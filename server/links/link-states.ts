import type { LinkState } from '../../core/bench/state'
import { linkById } from './links'

/** How long a state is shared by everybody who asks for it, in ms. */
const SHARED_MS = 300
const states = new Map<string, { readonly asked: number; readonly state: Promise<LinkState> }>()

/** The state of a link, requested once for everybody who asks at about the same time. */
export function stateOfLink(id: string): Promise<LinkState> {
  const now = performance.now()
  const shared = states.get(id)
  if (shared && now - shared.asked < SHARED_MS) return shared.state
  const state = linkById(id).then((link) => link.state())
  states.set(id, { asked: now, state })
  state.catch(() => states.delete(id))
  return state
}

/** Forgets shared states after a link may have been changed. */
export const forgetLinkStates = () => states.clear()
