import { GATE_NAMES } from '../../playbook/kinds/route-kind'
import type { Estimate } from '../situation/estimate'

/** The factors of a route's figures, in the fixed order in which they are given. */
export const CHANCE_FACTORS = [...GATE_NAMES, 'window', 'works'] as const
export const SHARE_FACTORS = ['keeps', 'coverage', 'survival', 'finds'] as const
export type FactorName = (typeof CHANCE_FACTORS)[number] | (typeof SHARE_FACTORS)[number]

/** One reason behind a figure: its value given all reasons before it, and the fact that it rests on. */
export interface Factor {
  readonly name: FactorName
  readonly value: Estimate
  readonly fact: string | null
  /** put into words only where somebody reads them: many more figures are computed than shown */
  readonly says: () => string
}

/** True for the reasons that multiply to the share, false for those that multiply to the chance. */
export function isShareFactor(name: string): boolean {
  return (SHARE_FACTORS as readonly string[]).includes(name)
}

const PLACES = new Map<FactorName, number>([...CHANCE_FACTORS, ...SHARE_FACTORS].map((name, place) => [name, place]))

/** The factors in their fixed order. */
export function inOrder(factors: readonly Factor[]): Factor[] {
  return [...factors].sort((one, other) => PLACES.get(one.name)! - PLACES.get(other.name)!)
}
