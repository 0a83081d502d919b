import type { Case } from '../../../cases/shape/case'
import type { Device } from '../../../cases/shape/device'
import { known } from '../../../cases/shape/fact'
import { holdIdOn } from '../../situation/hold-id'
import type { Situation } from '../../situation/situation'

/** Something nobody may do while the case is open, or something to switch off, with the facts behind it. */
export interface HoldFinding {
  readonly id: string
  /** what to do or not to do, as the beginning of a sentence */
  readonly what: string
  /** the reason, as its end; null where it is obvious */
  readonly why: string | null
  readonly from: readonly string[]
  /** the copies it is about; empty for the whole case */
  readonly copies: readonly string[]
  /** the device that it is about; null for the whole case, or for copies */
  readonly device: string | null
  /** it concerns every route on its device, whichever kinds of hold these name */
  readonly isForAll?: boolean
}

/** A kind of hold that route kinds name, and when it applies. Reads facts only. */
export type HoldRule = (situation: Situation) => HoldFinding[]

/** The devices on which the loss happened; where that is not known, the first. */
export const affected = ({ devices, loss }: Pick<Case, 'devices' | 'loss'>): Device[] =>
  devices.filter((device) => (known(loss.on) ? loss.on.includes(device.id) : device === devices[0]))

/** A hold in one sentence. */
export const holdWords = ({ what, why }: Pick<HoldFinding, 'what' | 'why'>) =>
  why === null ? `${what}.` : `${what}: ${why}.`

/** A hold for the whole case, as a list of one. */
export const one = (id: string, what: string, why: string | null, from: readonly string[]): HoldFinding[] => [
  { id, what, why, from, copies: [], device: null },
]

/** The same for one device of the case. */
export function on(device: Device, ofCase: Case, ...[kind, what, why, from]: Parameters<typeof one>): HoldFinding[] {
  const id = holdIdOn(kind, device.id, ofCase)
  return one(id, what, why, from).map((hold) => ({ ...hold, device: device.id }))
}
