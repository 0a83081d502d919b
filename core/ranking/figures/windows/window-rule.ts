import type { Binding } from '../../../playbook/bind'
import type { RouteKind } from '../../../playbook/kinds/route-kind'
import type { Situation } from '../../situation/situation'
import type { MediumAsked } from '../medium'

/** The chance that something is still open at a time (ms), and between which times it closes. */
export interface Closing {
  readonly survival: (time: number) => number
  readonly earliest: number | null
  readonly latest: number | null
  readonly fact: string | null
  /** put into words only where somebody reads them: many more figures are computed than shown */
  readonly says: () => string
}

export const NEVER: Closing = { survival: () => 1, earliest: null, latest: null, fact: null, says: () => 'Stays open.' }

/** The parameters of a rule, as the playbook gives them. */
export type WindowBy<Rule extends RouteKind['window']['rule']> = Extract<RouteKind['window'], { rule: Rule }>

/** One way in which a route closes. Each is one file that exports one of these, and a line in the registry. */
export type WindowRule<Rule extends RouteKind['window']['rule']> = (
  window: WindowBy<Rule>,
  asked: { readonly binding: Binding; readonly medium: MediumAsked | null; readonly situation: Situation },
) => Closing
