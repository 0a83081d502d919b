import { known, knownOr } from '../../cases/shape/fact'
import { DELETIONS, isFormat, writtenRange, type ByteRange } from '../../cases/shape/loss'
import { DAY_MS } from '../../cases/shape/moment'
import { countOf, itemBytesOf } from '../../cases/shape/wanted'
import { sayBytes } from '../../cases/telling/saying/amounts'
import type { Axis } from '../situation/axis'
import { ONE, type Estimate } from '../situation/estimate'
import { keptBy } from '../situation/kept-by'
import type { Situation } from '../situation/situation'
import { pointsIn } from '../situation/spread'
import { endOf, lossMiddle, storageKindOf, type MediumAsked, type Survival } from './medium'
import { wholeAfterWriting, wholeWhereLaid } from './overwriting'

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

/** The mean of a function over a range, at nine points of it; its value where the range has no width. */
function meanOver(from: number, to: number, of: (at: number) => number): number {
  const points = pointsIn({ from, to }, 9)
  return points.reduce((sum, at) => sum + of(at), 0) / points.length
}

/** Within a slice, the places at which its items are looked at. */
const PLACES = 5

/** By slice: the chance that its items are whole after the medium was filled anew with so many bytes. */
function laidBySlice(free: number, { wanted, slices }: Axis, written: number): number[] {
  const setBytes = itemBytesOf(wanted) * (known(wanted.count) ? countOf(wanted) : 1)
  let before = 0
  return slices.map(({ mass }) => {
    const points = Array.from({ length: PLACES }, (_, at) => before + (mass * (at + 0.5)) / PLACES)
    before += mass
    return points.reduce((sum, place) => sum + wholeWhereLaid({ written, free, setBytes }, place), 0) / PLACES
  })
}

/** What writing since the loss has left of a set. */
export function overwriting(medium: MediumAsked, axis: Axis, situation: Situation): Survival {
  const { since, how } = situation.ofCase.loss
  const set = axis.wanted
  const free = freeAfterLoss(medium, situation)
  const days = Math.max(0, (endOf(medium, situation) - lossMiddle(situation)) / DAY_MS)
  const fills = isFormat(how) && medium.isRemovable
  const laid = keptBy((written: number) => laidBySlice(free, axis, written))
  const left = (written: number) =>
    fills
      ? laid(written).reduce((sum, whole, index) => sum + whole * axis.slices[index]!.mass, 0)
      : wholeAfterWriting({ written, free, fileBytes: itemBytesOf(set) })
  /** By slice at the least, middle and most that was written. */
  const slices = (least: number, middle: number, most: number): Pick<Survival, 'bySlice'> => {
    if (!fills || axis.slices.length < 2) return {}
    const [low, mid, high] = [laid(most), laid(middle), laid(least)]
    return { bySlice: low.map((whole, index): Estimate => [whole, mid[index]!, high[index]!]) }
  }
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
      value: [left(to), fills ? left(written) : meanOver(from, to, left), left(from)],
      ...slices(from, written, to),
      fact: 'loss.since.writtenBytes',
      says: () => `${said} were written since, into ${sayBytes(free)} that were free.`,
    }
  }
  if (since.used === 'no' && since.installed !== 'yes')
    return { value: ONE, fact: 'loss.since.used', says: () => 'It was not used since, so nothing was overwritten.' }
  const daily = dailyWritingOf(medium, situation)
  const extra = since.installed === 'yes' ? 3e9 : 0
  const use = since.used === 'yes' ? 1 : 0.6
  const amount = (index: 0 | 1 | 2) => daily[index] * days * (index === 0 && since.used !== 'yes' ? 0 : use) + extra
  const at = (index: 0 | 1 | 2) => left(amount(index))
  const says =
    DELETIONS.includes(how) || fills
      ? 'Every hour of use overwrites some of it; it is not known how much.'
      : 'It is not known how much was written since.'
  return {
    value: [at(2), at(1), at(0)],
    ...slices(amount(0), amount(1), amount(2)),
    fact: 'loss.since.writtenBytes',
    says: () => says,
  }
}
