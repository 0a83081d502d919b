import { z } from 'zod'
import type { RouteKind } from './kinds/route-kind'
import { REPAIR_IDS, repairById } from './repairs'

const amount = z.number('is not an amount').min(0, 'is below zero').max(1_000_000)

/** The lines of a price list: what the shop takes for its own work, what a laboratory takes, and the parts of repairs. */
export const PRICE_NAMES = ['looking', 'taking', 'laboratory-look', 'laboratory-take', ...REPAIR_IDS] as const
export type PriceName = (typeof PRICE_NAMES)[number]

/** The shop's own prices in its currency, tax included; a line that is not there is as the playbook has it. */
export const Prices = z.partialRecord(z.enum(PRICE_NAMES), amount)
export type Prices = z.infer<typeof Prices>

/** How a line is called on a charge. */
export const PRICE_WORDS: Record<PriceName, string> = {
  looking: 'Looking',
  taking: 'Taking what was found',
  'laboratory-look': 'Laboratory, looking',
  'laboratory-take': 'Laboratory, where it brings them back',
  'repair-screen': 'Exchange of a screen',
  'repair-touch': 'Exchange of a screen that is dead to the touch',
  'repair-power': 'Exchange of battery, port or board power',
  'repair-wet': 'Cleaning and drying after water',
  'repair-system': 'Repair of a system that does not start',
  'repair-other-screen': 'Use with another screen',
  'repair-start': 'Start from another medium',
  'repair-supply': 'Exchange of a computer’s power part',
}

/** What prices are read from: the shop's own, and the route kinds with theirs. */
export interface PriceList {
  readonly shop: { readonly prices: Prices }
  readonly kinds: readonly RouteKind[]
}

/** A price as it is in force: the shop's own, else the playbook's; null for work that the shop has put no price on. */
export function priceOf({ shop, kinds }: PriceList, name: PriceName): number | null {
  const own = shop.prices[name]
  if (own !== undefined) return own
  if (name === 'looking' || name === 'taking') return null
  if (name === 'laboratory-look' || name === 'laboratory-take') {
    const laboratory = kinds.find(({ family }) => family === 'lab')
    return laboratory ? laboratory.money[name === 'laboratory-look' ? 'look' : 'take'] : null
  }
  return repairById(name)?.price ?? null
}

/** The route kinds of a playbook at the prices that are in force. */
export function pricedKinds({ shop, kinds }: PriceList): readonly RouteKind[] {
  const { 'laboratory-look': look, 'laboratory-take': take } = shop.prices
  if (look === undefined && take === undefined) return kinds
  return kinds.map((kind) =>
    kind.family === 'lab' ? { ...kind, money: { look: look ?? kind.money.look, take: take ?? kind.money.take } } : kind,
  )
}
