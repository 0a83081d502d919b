import { known } from '../../cases/shape/fact'
import { usualStorageKind, type Device } from '../../cases/shape/device'
import { spanOf } from '../../cases/shape/moment'
import type { Storage } from '../../cases/shape/storage'
import type { Estimate } from '../situation/estimate'
import type { Situation } from '../situation/situation'

/** What the physics leaves of the wanted items on a medium. */
export interface Survival {
  readonly value: Estimate
  /** by slice of the axis, where it is not the same for all; their mean is the value */
  readonly bySlice?: readonly Estimate[]
  readonly fact: string | null
  /** put into words only where somebody reads them: many more figures are worked out than are shown */
  readonly says: () => string
}

/** A medium that is read itself, or an image of it. */
export interface MediumAsked {
  readonly storage: Storage
  /** path of the storage's facts: devices.d1.storage, copies.c2.storage */
  readonly path: string
  readonly device: Device | null
  /** true for a medium that can be removed from the device: a card, a stick */
  readonly isRemovable: boolean
  /** for an image: until when (ms) writes to the medium count; null for the medium itself, where all of them do */
  readonly until: number | null
}

/** The time (ms) up to which what happened to the medium counts: nothing happens in a device that is off. */
export function endOf({ until, device }: Pick<MediumAsked, 'until' | 'device'>, { now }: Situation): number {
  const off = device?.power === 'off' && known(device.offSince) ? spanOf(device.offSince) : null
  return Math.min(now, until ?? now, off ? (off.from + off.to) / 2 : now)
}

/** The middle (ms) of the time in which it was lost. */
export const lossMiddle = ({ loss }: Situation) => (loss.from + loss.to) / 2

/** The kind of storage, or the usual one of such a device. */
export function storageKindOf({ storage, device }: MediumAsked): Storage['kind'] {
  if (known(storage.kind)) return storage.kind
  return device ? usualStorageKind(device) : 'unknown'
}
