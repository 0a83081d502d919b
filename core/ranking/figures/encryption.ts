import { known } from '../../cases/shape/fact'
import { isHandheld } from '../../cases/shape/device'
import { certain, ONE, ZERO } from '../situation/estimate'
import type { MediumAsked, Survival } from './medium'

/** Resets and fresh systems: they destroy the key of a device that is encrypted as a whole or by file. */
const KEY_DESTROYERS: readonly string[] = ['factory-reset', 'reinstalled']

/** How likely the storage is encrypted per file, as a whole, or not at all. */
export function encryptionOdds({
  storage,
  device,
  isRemovable,
}: MediumAsked): Record<'none' | 'whole-device' | 'per-file', number> {
  const sure = { none: 0, 'whole-device': 0, 'per-file': 0 }
  if (known(storage.encryption)) return { ...sure, [storage.encryption]: 1 }
  if (isRemovable || !device) return { none: 0.96, 'whole-device': 0.03, 'per-file': 0.01 }
  if (device.platform === 'closed-phone') return { none: 0, 'whole-device': 0.02, 'per-file': 0.98 }
  if (isHandheld(device)) return { none: 0.05, 'whole-device': 0.1, 'per-file': 0.85 }
  if (device.platform === 'maker-desktop') return { none: 0.25, 'whole-device': 0.4, 'per-file': 0.35 }
  return { none: 0.7, 'whole-device': 0.3, 'per-file': 0 }
}

/** What encryption leaves of what was lost in such a way. */
export function encryption(medium: MediumAsked, how: string): Survival {
  const odds = encryptionOdds(medium)
  const isAdopted = medium.isRemovable && medium.device === null
  const isKeyGone = KEY_DESTROYERS.includes(how) && !medium.isRemovable
  const left = isKeyGone || isAdopted ? odds.none : odds.none + odds['whole-device']
  const fact = `${medium.path}.encryption`
  if (left === 0) {
    const says = isAdopted
      ? 'The medium is encrypted for the device it was used in and cannot be read elsewhere.'
      : isKeyGone
        ? 'The key of the encrypted storage was destroyed; nothing on it can be read.'
        : 'Each file had its own key, and the key went with the file; a scan finds nothing.'
    return { value: ZERO, fact, says: () => says }
  }
  if (known(medium.storage.encryption))
    return { value: certain(left), fact, says: () => 'Encryption does not stand in the way here.' }
  return {
    value: [left * 0.5, left, Math.min(1, left * 1.4)],
    fact,
    says: () =>
      left < 0.5
        ? 'Such devices are nearly always encrypted, and the key goes with the file.'
        : 'Probably not encrypted in a way that matters.',
  }
}

/** Where nothing was deleted, only the lock of an encrypted medium is in the way; its key is the passcode. */
export function encryptionWhileThere(medium: MediumAsked): Survival {
  const fact = medium.device ? `devices.${medium.device.id}.passcode` : null
  const odds = encryptionOdds(medium)
  const lock = medium.device?.lock
  if (odds.none === 1 || lock === 'none' || medium.device?.passcode === 'known')
    return { value: ONE, fact, says: () => 'Nothing was deleted; it is all still on the medium.' }
  if (medium.device?.passcode === 'not-known')
    return {
      value: certain(odds.none),
      fact,
      says: () => 'The storage is encrypted and cannot be read without the passcode.',
    }
  return {
    value: [odds.none, odds.none + (1 - odds.none) * 0.75, 1],
    fact,
    says: () => 'Nothing was deleted, but an encrypted medium opens only with the passcode.',
  }
}
