import { DELETIONS } from '../../../cases/shape/loss'
import type { Span } from '../../../cases/shape/moment'
import type { Axis, Slice } from '../../situation/axis'
import { clamped, ONE, ZERO, type Estimate } from '../../situation/estimate'
import type { Situation } from '../../situation/situation'
import { pointsIn, shareAfter } from '../../situation/spread'

/** The number of points over which a share is averaged along a range of time. */
export const QUADRATURE = 15

/**
 * How likely what syncs has carried the loss on as a deletion; unknown is mostly that. Emptying a bin deletes for good on
 * that device, and in the cloud at most into its own bin.
 */
export function deletionOdds(how: string): Estimate {
  if (DELETIONS.includes(how)) return ONE
  if (how === 'bin-emptied') return [0.75, 0.92, 1]
  if (how === 'unknown') return [0.4, 0.65, 0.85]
  if (how === 'sync-switched') return [0.05, 0.15, 0.3]
  return ZERO
}

/** The same for a bin: what was deleted past it never went through it. */
export function binOdds(how: string): Estimate {
  return how === 'deleted-past-bin' || how === 'bin-emptied' ? ZERO : deletionOdds(how)
}

/** How much of a slice is in a range of time, 0 to 1. */
export function overlap(slice: Span, range: Span): number {
  if (slice.to === slice.from) return slice.from === 0 || (range.from <= slice.from && slice.from <= range.to) ? 1 : 0
  return clamped(shareAfter(slice, range.from) - shareAfter(slice, range.to))
}

/** A number of items that somebody gives from memory, as a share with its range. */
export const fromMemory = (share: number): Estimate => [share * 0.7, share, Math.min(1, share * 1.2)]

/** What was made by `time`, as a share of the slice. */
export function madeBy(slice: Slice, time: number): number {
  return slice.to === slice.from ? (slice.from === 0 || slice.from <= time ? 1 : 0) : 1 - shareAfter(slice, time)
}

/** The chance that the loss came after `time`, given that the items of the slice existed before it. */
export function lostAfter(slice: Slice, situation: Situation, time: number): number {
  const made = slice.to === 0 ? -Infinity : (slice.from + slice.to) / 2
  // Where only a part of the range of the loss is supposed, items created after that part were lost some time in the
  // whole range.
  const loss = made >= situation.loss.to ? situation.told.loss : situation.loss
  const from = Math.min(loss.to, Math.max(loss.from, made))
  return from === loss.to ? (loss.to > time ? 1 : 0) : shareAfter({ from, to: loss.to }, time)
}

/** By slice: which part of it was made at or after a moment that is itself a range. */
export function madeFrom(axis: Axis, since: Span): number[] {
  const points = pointsIn(since, QUADRATURE)
  return axis.slices.map((slice) => points.reduce((sum, time) => sum + 1 - madeBy(slice, time), 0) / points.length)
}
