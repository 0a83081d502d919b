import type { LinkState } from '../../core/bench/state'
import { linkById } from './links'

/** For so long what a link says of itself is shared by all who ask, ms. */
const SHARED_MS = 300
const states = new Map<string, { readonly asked: number; readonly state: Promise<LinkState> }>()

/** How a link stands: asked once for everybody who wants to know at about the same time. */
export function stateOfLink(id: string): Promise<LinkState> {
  const now = performance.now()
  const shared = states.get(id)
  if (shared && now - shared.asked < SHARED_MS) return shared.state
  const state = linkById(id).then((link) => link.state())
  states.set(id, { asked: now, state })
  state.catch(() => states.delete(id))
  return state
}

/** Whatever is asked from now on is asked anew: something may have been done to a link. */
export const forgetLinkStates = () => states.clear()
