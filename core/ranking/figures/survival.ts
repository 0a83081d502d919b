import { known, knownOr } from '../../cases/shape/fact'
import { isHandheld, usualStorageKind, type Device } from '../../cases/shape/device'
import {
  DELETIONS,
  happenedElsewhere,
  isFormat,
  STILL_THERE,
  writtenRange,
  type ByteRange,
} from '../../cases/shape/loss'
import { DAY_MS, spanOf, type Span } from '../../cases/shape/moment'
import type { Storage } from '../../cases/shape/storage'
import { itemBytesOf, type WantedSet } from '../../cases/shape/wanted'
import { sayBytes } from '../../cases/telling/saying/amounts'
import { certain, clamped, ONE, product, ZERO, type Estimate } from '../situation/estimate'
import { wholeAfterFilling, wholeAfterWriting } from './overwriting'
import type { Situation } from '../situation/situation'
import { pointsIn, shareUpTo } from '../situation/spread'

/** What the physics leaves of the wanted items on a medium. */
export interface Survival {
  readonly value: Estimate
  readonly fact: string | null
  /** put into words only where somebody reads them: many more figures are worked out than are shown */
  readonly says: () => string
}

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
function endOf({ until, device }: Pick<MediumAsked, 'until' | 'device'>, { now }: Situation): number {
  const off = device?.power === 'off' && known(device.offSince) ? spanOf(device.offSince) : null
  return Math.min(now, until ?? now, off ? (off.from + off.to) / 2 : now)
}

const lossMiddle = ({ loss }: Situation) => (loss.from + loss.to) / 2

type StorageKindName = Storage['kind']

/** Bytes that a device writes by itself and in use in a day, assumed where unknown; low, mid, high. */
const DAILY_BYTES: Record<string, Estimate> = {
  'phone-flash': [0.3e9, 1e9, 3e9],
  'solid-state': [1e9, 4e9, 12e9],
  'spinning-disk': [0.5e9, 2e9, 6e9],
  card: [0.02e9, 0.3e9, 2e9],
  stick: [0.01e9, 0.1e9, 1e9],
  unknown: [0.3e9, 1.5e9, 5e9],
}

/** Free bytes assumed where neither free space nor capacity is known. */
const USUAL_FREE: Record<string, number> = {
  'phone-flash': 30e9,
  'solid-state': 150e9,
  'spinning-disk': 400e9,
  card: 32e9,
  stick: 16e9,
  unknown: 60e9,
}

/** Chances that a medium of this kind discards freed blocks at once, by a timer, or never. */
const DISCARD_PRIOR: Record<string, readonly [atOnce: number, byTimer: number, off: number]> = {
  'phone-flash': [0.75, 0.2, 0.05],
  'solid-state': [0.7, 0.2, 0.1],
  'spinning-disk': [0, 0.01, 0.99],
  card: [0.01, 0.01, 0.98],
  stick: [0.02, 0, 0.98],
  unknown: [0.4, 0.1, 0.5],
}

/** Days between two runs of the timer that discards freed blocks. */
export const DISCARD_TIMER_DAYS = 7

/** Resets and fresh systems: they destroy the key of a device that is encrypted as a whole or by file. */
const KEY_DESTROYERS: readonly string[] = ['factory-reset', 'reinstalled']

/** The kind of storage, or the usual one of such a device. */
export function storageKindOf({ storage, device }: MediumAsked): StorageKindName {
  if (known(storage.kind)) return storage.kind
  return device ? usualStorageKind(device) : 'unknown'
}

const middleOf = ({ from, to }: ByteRange) => (from + to) / 2

/** Bytes written per day of use, or the usual figure for such a medium. */
export function dailyWritingOf(medium: MediumAsked, situation: Situation): Estimate {
  const { since } = situation.ofCase.loss
  if (known(since.writtenBytes)) {
    const days = Math.max(0.5, (situation.now - lossMiddle(situation)) / DAY_MS)
    const { from, to } = writtenRange(since.writtenBytes)
    return [from / days, (from + to) / 2 / days, to / days]
  }
  return DAILY_BYTES[storageKindOf(medium)]!
}

/** Bytes free right after the loss: what is free now plus what was written since, or the usual figure. */
export function freeAfterLoss({ storage, ...medium }: MediumAsked, situation: Situation): number {
  const how = situation.ofCase.loss.how
  if (isFormat(how) && known(storage.capacityBytes)) return storage.capacityBytes
  const written = middleOf(writtenRange(knownOr(situation.ofCase.loss.since.writtenBytes, 0)))
  if (known(storage.freeBytes)) return storage.freeBytes + written
  if (known(storage.capacityBytes)) return storage.capacityBytes * 0.4
  return USUAL_FREE[storageKindOf({ storage, ...medium })]!
}

/**
 * The share of a wanted set that a medium still holds and that can be read at all, by any route: encryption, discard,
 * format and overwriting, each named where it decides.
 */
export function survivalOf(medium: MediumAsked, set: WantedSet, situation: Situation): Survival {
  const { how } = situation.ofCase.loss
  const isUntouched = happenedElsewhere(situation.ofCase.loss.on, medium.path.split('.')[1])
  const causes =
    STILL_THERE.includes(how) || isUntouched
      ? [encryptionWhileThere(medium)]
      : [
          encryption(medium, how),
          format(situation),
          discard(medium, situation),
          contentChanged(how),
          overwriting(medium, set, situation),
        ]
  const deciding = causes.reduce((least, cause) => (cause.value[1] < least.value[1] ? cause : least))
  return {
    value: product(...causes.map((cause) => cause.value)),
    fact: deciding.fact,
    says: deciding.says,
  }
}

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

function encryption(medium: MediumAsked, how: string): Survival {
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
function encryptionWhileThere(medium: MediumAsked): Survival {
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

function format({ ofCase: { loss } }: Situation): Survival {
  const fact = 'loss.format'
  if (loss.how !== 'formatted') return { value: ONE, fact, says: () => 'It was not formatted.' }
  if (loss.format === 'full')
    return { value: ZERO, fact, says: () => 'A full format writes every block; nothing is left under it.' }
  if (loss.format === 'quick')
    return { value: ONE, fact, says: () => 'A quick format clears the records and leaves the content.' }
  return {
    value: [0.6, 0.8, 0.95],
    fact,
    says: () => 'A quick format leaves the content, a full one nothing; it is not known which it was.',
  }
}

/** Losses that change the content itself rather than delete it. */
function contentChanged(how: string): Survival {
  const fact = 'loss.how'
  if (how === 'saved-over')
    return {
      value: [0.05, 0.2, 0.4],
      fact,
      says: () => 'Programs often save into a new file and drop the old one, but not always.',
    }
  if (how === 'malware')
    return {
      value: [0.02, 0.1, 0.25],
      fact,
      says: () => 'Some malware writes a new file and drops the old one; most writes over it.',
    }
  if (how === 'crashed-before-saving')
    return { value: [0.02, 0.08, 0.2], fact, says: () => 'What was never saved was hardly ever on the medium.' }
  return { value: ONE, fact, says: () => 'The content itself was not changed.' }
}

function discard(medium: MediumAsked, situation: Situation): Survival {
  const fact = `${medium.path}.discard`
  const [atOnce, byTimer, off] = discardOdds(medium)
  const beforeTimer = notYetDiscarded(medium, situation)
  const left = off + byTimer * beforeTimer
  if (atOnce === 1)
    return { value: ZERO, fact, says: () => 'Freed blocks are erased at once on this medium; they read as zeros.' }
  if (byTimer === 1)
    return {
      value: certain(left),
      fact,
      says: () =>
        left === 0
          ? 'The timer that erases freed blocks has run since.'
          : 'Freed blocks wait for the next run of the timer that erases them.',
    }
  if (off === 1 || left > 0.9)
    return { value: certain(left), fact, says: () => 'This medium does not erase freed blocks by itself.' }
  return {
    value: [left * 0.4, left, Math.min(1, left * 1.8)],
    fact,
    says: () => 'Such a medium usually erases freed blocks by itself; it is not known whether this one does.',
  }
}

/** The chances (fractions of 1) that a medium discards freed blocks at once, by a timer, or not at all. */
export function discardOdds(medium: MediumAsked): readonly [atOnce: number, byTimer: number, off: number] {
  const { discard: told } = medium.storage
  if (told === 'at-once') return [1, 0, 0]
  if (told === 'by-timer') return [0, 1, 0]
  if (told === 'off') return [0, 0, 1]
  return DISCARD_PRIOR[storageKindOf(medium)]!
}

/** When the timer last ran before `end`, where it is known when it runs next; a run every week. */
function lastRun({ storage }: MediumAsked, end: number): Span | null {
  if (!known(storage.discardNext)) return null
  const next = spanOf(storage.discardNext)
  const weeks = Math.max(0, Math.ceil((next.to - end) / (DISCARD_TIMER_DAYS * DAY_MS)))
  const back = weeks * DISCARD_TIMER_DAYS * DAY_MS
  return { from: next.from - back, to: next.to - back }
}

/** The chance that no run of the timer fell between the loss and now, whatever weekday it runs on. */
function notYetDiscarded(medium: MediumAsked, situation: Situation): number {
  const { loss } = situation
  const end = endOf(medium, situation)
  const points = pointsIn(loss, 9)
  const last = lastRun(medium, end)
  if (last) return points.reduce((sum, time) => sum + shareUpTo(last, time), 0) / points.length
  return (
    points.reduce((sum, time) => sum + clamped(1 - (end - time) / (DISCARD_TIMER_DAYS * DAY_MS)), 0) / points.length
  )
}

/** The mean of a function over a range, at nine points of it; its value where the range has no width. */
function meanOver(from: number, to: number, of: (at: number) => number): number {
  const points = pointsIn({ from, to }, 9)
  return points.reduce((sum, at) => sum + of(at), 0) / points.length
}

function overwriting(medium: MediumAsked, set: WantedSet, situation: Situation): Survival {
  const { since, how } = situation.ofCase.loss
  const free = freeAfterLoss(medium, situation)
  const days = Math.max(0, (endOf(medium, situation) - lossMiddle(situation)) / DAY_MS)
  const fills = isFormat(how) && medium.isRemovable
  const left = (written: number) =>
    fills ? wholeAfterFilling(written, free) : wholeAfterWriting({ written, free, fileBytes: itemBytesOf(set) })
  if (known(since.writtenBytes)) {
    const daily = dailyWritingOf(medium, situation)
    const { from, to } =
      medium.until === null ? writtenRange(since.writtenBytes) : { from: daily[0] * days, to: daily[2] * days }
    const written = (from + to) / 2
    const said =
      from === to
        ? `About ${sayBytes(Math.round(written))}`
        : `Between ${sayBytes(Math.round(from))} and ${sayBytes(Math.round(to))}`
    return {
      value: [left(to), meanOver(from, to, left), left(from)],
      fact: 'loss.since.writtenBytes',
      says: () => `${said} were written since, into ${sayBytes(free)} that were free.`,
    }
  }
  if (since.used === 'no' && since.installed !== 'yes')
    return { value: ONE, fact: 'loss.since.used', says: () => 'It was not used since, so nothing was overwritten.' }
  const daily = dailyWritingOf(medium, situation)
  const extra = since.installed === 'yes' ? 3e9 : 0
  const use = since.used === 'yes' ? 1 : 0.6
  const at = (index: 0 | 1 | 2) => left(daily[index] * days * (index === 0 && since.used !== 'yes' ? 0 : use) + extra)
  const says =
    DELETIONS.includes(how) || fills
      ? 'Every hour of use overwrites some of it; it is not known how much.'
      : 'It is not known how much was written since.'
  return { value: [at(2), at(1), at(0)], fact: 'loss.since.writtenBytes', says: () => says }
}
