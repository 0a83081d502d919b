import { known, knownOr } from '../../../cases/shape/fact'
import { BIN_OF, type Device } from '../../../cases/shape/device'
import { DELETIONS } from '../../../cases/shape/loss'
import { DAY_MS, spanOf, type Span } from '../../../cases/shape/moment'
import { spanWords } from '../../../cases/telling/words'
import type { Period } from '../../../cases/shape/period'
import { certain, clamped, ZERO, type Estimate } from '../../situation/estimate'
import type { Axis } from '../../situation/axis'
import { zoneOf, type Situation } from '../../situation/situation'
import { pointsIn, shareAfter, shareUpTo, sumIsAfter } from '../../situation/spread'
import { flat, type CoverageRule } from './coverage-rule'
import { lostAfter, madeBy, overlap, QUADRATURE } from './shares'

/**
 * A snapshot covers what existed, and was not lost yet, when it was taken. Taken after the loss it covers nothing,
 * unless it includes a bin that still had the items.
 */
export const snapshot: CoverageRule<'snapshot'> = (binding, brings, axis, situation) => {
  const { copy } = binding
  const { loss, now } = situation
  if (!copy) return { bySlice: flat(axis, ZERO), fact: null, says: () => 'There is no such copy.' }
  const fact = `copies.${copy.id}.taken`
  const isTold = known(copy.taken)
  const taken = isTold
    ? clip(spanOf(copy.taken as { from: string; to: string }), now)
    : { from: Math.min(loss.from, now) - 45 * DAY_MS, to: now }
  const points = pointsIn(taken, QUADRATURE)
  const binOdds = points.map((time) =>
    brings.keptBin && hadBin(axis, binding.device, copy.keepsBin === 'yes')
      ? keptBinOdds(copy.keepsBin, brings.keptBin, time, situation)
      : ZERO,
  )
  const within = known(copy.covers) ? spanOf(copy.covers) : null
  const bySlice = axis.slices.map((slice): Estimate => {
    const covered = (within ? overlap(slice, within) : 1) / points.length
    let low = 0
    let mid = 0
    let high = 0
    for (let at = 0; at < points.length; at++) {
      const made = madeBy(slice, points[at]!) * covered
      if (made === 0) continue
      const live = lostAfter(slice, situation, points[at]!)
      const bin = binOdds[at]!
      low += made * (live + (1 - live) * bin[0])
      mid += made * (live + (1 - live) * bin[1])
      high += made * (live + (1 - live) * bin[2])
    }
    return isTold
      ? [clamped(low), clamped(mid), clamped(high)]
      : [clamped(low) * 0.3, clamped(mid), Math.min(1, clamped(high) * 1.5)]
  })
  return {
    bySlice,
    fact,
    says: () => snapshotWords(copy.taken, bySlice, situation, copy.keepsBin),
  }
}

/** Whether the items can have been in a bin of the device at all: their kind has one, and it was on. */
function hadBin({ wanted }: Axis, device: Device | null, isSaid: boolean): boolean {
  if (!known(wanted.type)) return true
  const bin = BIN_OF[wanted.type]
  return bin !== undefined && (isSaid || (device?.bins[bin] !== 'off' && device?.bins[bin] !== 'emptied'))
}

const clip = (span: Span, now: number): Span => ({ from: Math.min(span.from, now), to: Math.min(span.to, now) })

/** The chance that a copy taken after the loss includes the bin, and that the bin still had the items then. */
function keptBinOdds(keepsBin: string, period: Period, time: number, { ofCase, loss }: Situation): Estimate {
  if (!DELETIONS.includes(ofCase.loss.how) || ofCase.loss.how === 'deleted-past-bin' || keepsBin === 'no') return ZERO
  const held = sumIsAfter(loss, { from: period.minDays * DAY_MS, to: period.maxDays * DAY_MS }, time)
  return knownOr(keepsBin as 'yes' | 'no' | 'unknown', null) === 'yes'
    ? certain(held * 0.95)
    : [0.02 * held, 0.2 * held, 0.5 * held]
}

function snapshotWords(taken: unknown, bySlice: readonly Estimate[], situation: Situation, keepsBin: string): string {
  const mean = bySlice.reduce((sum, value) => sum + value[1], 0) / Math.max(1, bySlice.length)
  const { loss, now } = situation
  if (!taken || taken === 'unknown')
    return 'It is not known when it was taken; it helps only if that was before the loss and after the items were made.'
  const span = spanOf(taken as { from: string; to: string })
  const when = spanWords(span, zoneOf(situation), now)
  if (shareUpTo(loss, span.from) === 1)
    return keepsBin === 'yes' && mean > 0
      ? mean > 0.6
        ? `Taken ${when}, after the loss, but it kept the bin.`
        : `Taken ${when}, after the loss; the bin that it kept may have run out by then.`
      : mean > 0
        ? `Taken ${when}, after the loss: it helps only if it kept the bin.`
        : `Taken ${when}, after the loss: it holds none of them.`
  if (mean >= 0.97) return `Taken ${when}, before the loss and after they were made.`
  if (shareAfter(loss, span.to) === 1)
    return mean === 0
      ? `Taken ${when}, before any of them was made.`
      : `Taken ${when}, before the loss: it holds what had been made by then.`
  return `Taken ${when}, and the loss may have come before that.`
}
