import type { Binding } from '../../../playbook/bind'
import type { Brings } from '../../../playbook/kinds/route-kind'
import type { Axis } from '../../situation/axis'
import type { Estimate } from '../../situation/estimate'
import type { Situation } from '../../situation/situation'

/** Which part of a wanted set a copy covers, slice by slice, and the reason. */
export interface Coverage {
  readonly bySlice: readonly Estimate[]
  readonly fact: string | null
  /** put into words only where somebody reads them: many more figures are computed than shown */
  readonly says: () => string
}

/** The parameters of a rule, as the playbook gives them. */
export type BringsBy<By extends Brings['by']> = Extract<Brings, { by: By }>

/**
 * One way in which what a route reads comes to hold the items. Each is one file that exports one of these, and a line
 * in the registry.
 */
export type CoverageRule<By extends Brings['by']> = (
  binding: Binding,
  brings: BringsBy<By>,
  axis: Axis,
  situation: Situation,
) => Coverage

/** The same estimate for every slice. */
export const flat = (axis: Axis, value: Estimate) => axis.slices.map(() => value)
