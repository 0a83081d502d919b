import type { Case } from '../../cases/shape/case'
import { isComputer, isHandheld, type Device } from '../../cases/shape/device'
import { known } from '../../cases/shape/fact'
import type { LossKind } from '../../cases/shape/loss'
import type { Limits } from '../../cases/shape/terms'
import type { Estimate } from '../situation/estimate'

/** A copy that follows from something else that the client said. */
export const SUPPOSED: Estimate = [0.6, 0.85, 0.97]
/** What a client thinks they know is right so often. */
export const THOUGHT_KNOWN: Estimate = [0.5, 0.75, 0.9]

/** How likely a client who has named no sum would pay for a laboratory; null where they said nothing of it. */
export function payableOf(budget: Limits['budget']): Estimate | null {
  if (budget === 'little') return [0.02, 0.08, 0.2]
  return budget === 'whatever' ? [0.85, 0.95, 0.99] : null
}

/** How likely a device works that was wet and has not been tried since; null where it was not wet. */
export function workingUnknown(device: Pick<Device, 'wet'> | null): Estimate | null {
  return device?.wet === 'wet' ? [0.1, 0.3, 0.55] : device?.wet === 'dried' ? [0.3, 0.55, 0.75] : null
}

type CauseOdds = Readonly<Partial<Record<LossKind, number>>>

const HANDHELD_CAUSES: CauseOdds = {
  'deleted-in-bulk': 0.52,
  'bin-emptied': 0.12,
  'sync-switched': 0.2,
  'app-removed': 0.12,
  'factory-reset': 0.04,
}
const COMPUTER_CAUSES: CauseOdds = {
  'deleted-in-bulk': 0.4,
  'bin-emptied': 0.12,
  'saved-over': 0.14,
  'sync-switched': 0.14,
  'crashed-before-saving': 0.06,
  reinstalled: 0.06,
  'app-removed': 0.04,
  formatted: 0.04,
}
const MEDIUM_CAUSES: CauseOdds = { 'deleted-in-bulk': 0.6, formatted: 0.4 }

/** How likely it is that a card or disk that goes with a phone was formatted. */
const CARD_FORMATTED = 0.15

/**
 * The likely ways of losing where nobody knows which it was, by the devices on which it may have happened; they add up
 * to 1.
 */
export function causeOdds({ devices, copies, loss }: Pick<Case, 'devices' | 'copies' | 'loss'>): CauseOdds {
  const { on } = loss
  const among = known(on) ? devices.filter(({ id }) => on.includes(id)) : devices
  if (among.length === 0) return MEDIUM_CAUSES
  const hasCard = copies.some(({ kind, exists }) => kind === 'medium' && exists !== 'no')
  const odds: Partial<Record<LossKind, number>> = {}
  const add = (causes: CauseOdds, part: number) => {
    for (const [how, chance] of Object.entries(causes) as [LossKind, number][])
      odds[how] = (odds[how] ?? 0) + (chance * part) / among.length
  }
  for (const device of among) {
    const isWithCard = hasCard && isHandheld(device)
    add(
      isComputer(device) ? COMPUTER_CAUSES : isHandheld(device) ? HANDHELD_CAUSES : MEDIUM_CAUSES,
      isWithCard ? 1 - CARD_FORMATTED : 1,
    )
    if (isWithCard) add({ formatted: 1 }, CARD_FORMATTED)
  }
  return odds
}

/** The mean of a figure over the likely ways of losing, where the way is unknown; its value for the way, where it is. */
export function overCauses(ofCase: Case, of: (how: string) => number): number {
  const { how } = ofCase.loss
  if (how !== 'unknown') return of(how)
  return Object.entries(causeOdds(ofCase)).reduce((sum, [cause, chance]) => sum + chance * of(cause), 0)
}
