import type { Case } from '../cases/shape/case'
import { WIPED_PARTS, type WipedPart } from '../cases/shape/wiping'
import type { Shop } from '../playbook/shop'
import { wipeAsks, wipeDates, wipeStop, type WipeAsk, type WipeStop } from './standing'

/** What happens to one part of a case when its client wants everything erased, and why where it stays. */
export interface Erasing {
  readonly part: WipedPart
  readonly does: 'wipe' | 'stays' | 'gone'
  readonly why: WipeStop | WipeAsk | 'receipts' | null
  /** ms: until when receipts have to be kept */
  readonly until: number | null
}

/**
 * What is erased of a case at its client’s wish. What is not settled stays until it is; where money changed hands, name and
 * receipts stay for as long as the shop has to keep them. `now`: ms.
 */
export function erasingOf(ofCase: Case, shop: Shop, now: number): Erasing[] {
  const stop = wipeStop(ofCase)
  const [ask] = wipeAsks(ofCase)
  const { person } = wipeDates(ofCase, shop)
  const hasReceipts = ofCase.money.payments.length > 0 && person !== null && person > now
  return WIPED_PARTS.map((part): Erasing => {
    if (ofCase.wiping[part]) return { part, does: 'gone', why: null, until: null }
    const why = stop ?? ask ?? (part === 'person' && hasReceipts ? 'receipts' : null)
    return { part, does: why === null ? 'wipe' : 'stays', why, until: why === 'receipts' ? person : null }
  })
}
