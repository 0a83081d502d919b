import { isBareMedium } from '../../cases/shape/device'
import { known, knownOr } from '../../cases/shape/fact'
import { DELETIONS, STILL_THERE } from '../../cases/shape/loss'
import { DAY_MS, spanOf, type Span } from '../../cases/shape/moment'
import { countOf } from '../../cases/shape/wanted'
import { momentWords, spanWords } from '../../cases/telling/words'
import type { Binding } from '../../playbook/bind'
import type { Brings, Period } from '../../playbook/kinds/route-kind'
import type { Axis, Slice } from '../situation/axis'
import { certain, clamped, ONE, ZERO, type Estimate } from '../situation/estimate'
import { zoneOf, type Situation } from '../situation/situation'
import { pointsIn, shareAfter, shareUpTo, sumIsAfter } from '../situation/spread'

/** Which part of a wanted set a copy covers, slice by slice, and the reason. */
export interface Coverage {
  readonly bySlice: readonly Estimate[]
  readonly fact: string | null
  /** put into words only where somebody reads them: many more figures are worked out than are shown */
  readonly says: () => string
}

type Mechanism<B extends Brings> = (binding: Binding, brings: B, axis: Axis, situation: Situation) => Coverage
type Registry = { readonly [By in Brings['by']]: Mechanism<Extract<Brings, { by: By }>> }

const flat = (axis: Axis, value: Estimate) => axis.slices.map(() => value)
const QUADRATURE = 15

/** How likely the items went the way of an ordinary deletion; unknown is mostly that. */
function deletionOdds(how: string): Estimate {
  if (DELETIONS.includes(how)) return ONE
  if (how === 'unknown') return [0.4, 0.65, 0.85]
  if (how === 'sync-switched') return [0.05, 0.15, 0.3]
  return ZERO
}

/** What was made by `time`, as a share of the slice. */
function madeBy(slice: Slice, time: number): number {
  return slice.to === slice.from ? (slice.from === 0 || slice.from <= time ? 1 : 0) : 1 - shareAfter(slice, time)
}

/** The chance that the loss came after `time`, given that the items of the slice had been made before it. */
function lostAfter(slice: Slice, situation: Situation, time: number): number {
  const made = slice.to === 0 ? -Infinity : (slice.from + slice.to) / 2
  // Where only a part of the range of the loss is supposed, what was made after that part was lost some time in the whole range.
  const loss = made >= situation.loss.to ? situation.told.loss : situation.loss
  const from = Math.min(loss.to, Math.max(loss.from, made))
  return from === loss.to ? (loss.to > time ? 1 : 0) : shareAfter({ from, to: loss.to }, time)
}

const MECHANISMS: Registry = {
  bin: (_binding, _brings, axis, { ofCase: { loss } }) => ({
    bySlice: flat(axis, deletionOdds(loss.how)),
    fact: 'loss.how',
    says: () =>
      DELETIONS.includes(loss.how)
        ? 'An ordinary deletion goes through the bin.'
        : loss.how === 'unknown'
          ? 'If they were deleted in the ordinary way, they went through the bin.'
          : 'They did not go through a bin.',
  }),

  'library-bin': (binding, _brings, axis, situation) => {
    const reached = syncedCoverage(binding, axis, situation)
    const deleted = deletionOdds(situation.ofCase.loss.how)
    if (binding.copy?.binEmptied === 'yes')
      return {
        bySlice: flat(axis, ZERO),
        fact: `copies.${binding.copy.id}.binEmptied`,
        says: () => 'Its bin has been emptied.',
      }
    if (deleted[2] === 0)
      return {
        bySlice: flat(axis, ZERO),
        fact: 'loss.how',
        says: () => 'Nothing was deleted in the cloud, so its bin has nothing to do with it.',
      }
    return {
      bySlice: reached.bySlice.map((value) => [value[0] * deleted[0], value[1] * deleted[1], value[2] * deleted[2]]),
      fact: reached.fact,
      says: reached.says,
    }
  },

  versions: (binding, _brings, axis, situation) => syncedCoverage(binding, axis, situation),

  library: (binding, _brings, axis, situation) => {
    const { how } = situation.ofCase.loss
    if (how === 'saved-over' || how === 'malware')
      return {
        bySlice: flat(axis, ZERO),
        fact: 'loss.how',
        says: () => 'The cloud holds the changed items too; look for their earlier versions.',
      }
    return syncedCoverage(binding, axis, situation)
  },

  snapshot: snapshotCoverage,

  storage: (binding, _brings, axis, situation) => {
    if (binding.copy?.kind === 'disk-image') return imageCoverage(binding.copy, axis, situation)
    const { lived } = axis.wanted
    const isMedium = binding.copy?.kind === 'medium'
    const here = isMedium ? 'card' : 'device'
    const fact = `wanted.${axis.wanted.id}.lived`
    const isBareDevice = binding.device !== null && isBareMedium(binding.device)
    if (!known(lived)) {
      const value: Estimate = isMedium ? [0.3, 0.6, 0.9] : ONE
      return {
        bySlice: flat(axis, value),
        fact,
        says: () => (isMedium ? 'Nobody said whether they lay on it or on the device.' : 'They lay on it.'),
      }
    }
    if (!isMedium && isBareDevice) return { bySlice: flat(axis, ONE), fact, says: () => 'They lay on it.' }
    const place = lived.find((candidate) => candidate.place === here)
    const other = lived.find((candidate) => candidate.place === (isMedium ? 'device' : 'card') && known(candidate.from))
    if (!place && !(here === 'device' && lived.some((candidate) => candidate.place === 'app')))
      return {
        bySlice: flat(axis, ZERO),
        fact,
        says: () => (isMedium ? 'They did not lie on it.' : 'They did not lie on the device itself.'),
      }
    if (place && known(place.from)) {
      const { from } = place
      const since = spanOf(from)
      return {
        bySlice: madeFrom(axis, since).map(certain),
        fact,
        says: () => `They lay on it from ${momentWords(from, zoneOf(situation), situation.now)} on.`,
      }
    }
    if (other && known(other.from)) {
      const { from } = other
      const until = spanOf(from)
      return {
        bySlice: madeFrom(axis, until).map((share) => certain(1 - share)),
        fact,
        says: () => `They lay on it until ${momentWords(from, zoneOf(situation), situation.now)}.`,
      }
    }
    return { bySlice: flat(axis, ONE), fact, says: () => 'They lay on it.' }
  },

  person: (binding, { share }, axis) => {
    const copy = binding.copy
    const { count } = axis.wanted
    if (copy && known(copy.count) && known(count)) {
      const part = clamped(copy.count / countOf(axis.wanted))
      return {
        bySlice: flat(axis, [part * 0.7, part, Math.min(1, part * 1.2)]),
        fact: `copies.${copy.id}.count`,
        says: () => `About ${copy.count} of about ${count} were sent.`,
      }
    }
    return {
      bySlice: flat(axis, share),
      fact: copy ? `copies.${copy.id}.count` : null,
      says: () => 'Usually only some of them were ever sent.',
    }
  },

  place: (_binding, { share }, axis, { ofCase, told }) => {
    // While nobody knows how they went, they may never have been lost, whatever is supposed otherwise.
    const loss = known(told.ofCase.loss.how) ? ofCase.loss : told.ofCase.loss
    const still =
      loss.how === 'unknown'
        ? 4
        : DELETIONS.includes(loss.how) || loss.how === 'sync-switched'
          ? 1
          : loss.how === 'crashed-before-saving' || loss.how === 'saved-over' || loss.how === 'app-removed'
            ? 1
            : 0
    const value: Estimate = [
      Math.min(0.6, share[0] * still),
      Math.min(0.7, share[1] * still),
      Math.min(0.8, share[2] * still),
    ]
    return {
      bySlice: flat(axis, value),
      fact: 'loss.how',
      says: () =>
        still === 0
          ? 'They were not merely moved.'
          : still > 1
            ? 'Nobody knows how they went; they may only have moved.'
            : 'Now and then they were only moved or renamed.',
    }
  },

  autosave: (_binding, _brings, axis, { ofCase: { loss } }) => {
    const value: Estimate =
      loss.how === 'crashed-before-saving'
        ? [0.5, 0.75, 0.9]
        : loss.how === 'saved-over'
          ? [0.1, 0.25, 0.5]
          : loss.how === 'unknown'
            ? [0.05, 0.15, 0.3]
            : [0.01, 0.03, 0.1]
    return {
      bySlice: flat(axis, value),
      fact: 'loss.how',
      says: () =>
        loss.how === 'crashed-before-saving'
          ? 'After a crash the last automatic copy is usually there.'
          : 'The folder is cleared when the program closes in good order.',
    }
  },

  rows: (_binding, { share, halfLifeDays }, axis, situation) => {
    const { how, since } = situation.ofCase.loss
    if (STILL_THERE.includes(how))
      return { bySlice: flat(axis, ONE), fact: 'loss.how', says: () => 'Nothing was deleted; the rows are all there.' }
    if (how === 'app-removed' || how === 'factory-reset')
      return {
        bySlice: flat(axis, ZERO),
        fact: 'loss.how',
        says: () => 'The database went as a whole, and its rows with it.',
      }
    const days = pointsIn(situation.loss, 5).map((time) => Math.max(0, situation.now - time) / DAY_MS)
    const use = since.used === 'no' ? 0 : since.used === 'yes' ? 1 : 0.5
    const left = days.reduce((sum, past) => sum + 0.5 ** ((use * past) / halfLifeDays), 0) / days.length
    return {
      bySlice: flat(axis, [share[0] * left, share[1] * left, share[2] * left]),
      fact: 'loss.since.used',
      says: () =>
        use === 0
          ? 'Deleted rows stay in free pages of the database, and nothing was written since.'
          : 'Deleted rows stay in free pages until new ones take their place; in use they fade.',
    }
  },

  account: (binding, { share }, axis) => {
    const { copy } = binding
    const { count } = axis.wanted
    const fact = copy ? `copies.${copy.id}.count` : null
    if (copy && known(copy.count) && known(count)) {
      const part = clamped(copy.count / countOf(axis.wanted))
      return {
        bySlice: flat(axis, [part * 0.7, part, Math.min(1, part * 1.2)]),
        fact,
        says: () => `About ${copy.count} of about ${count} are in it.`,
      }
    }
    return { bySlice: flat(axis, share), fact, says: () => 'Only what was ever posted or sent there is in it.' }
  },

  nothing: (binding, _brings, axis) => ({ bySlice: flat(axis, ZERO), fact: null, says: () => binding.kind.says }),
}

/** What was on the medium when the image was made: what had been made by then; what was lost before that is for the scan to find. */
function imageCoverage(copy: NonNullable<Binding['copy']>, axis: Axis, situation: Situation): Coverage {
  const fact = `copies.${copy.id}.taken`
  if (!known(copy.taken))
    return { bySlice: flat(axis, [0.6, 0.85, 1]), fact, says: () => 'Nobody knows when the image was made.' }
  const { taken } = copy
  const points = pointsIn(spanOf(taken), QUADRATURE)
  return {
    bySlice: axis.slices.map((slice) =>
      certain(points.reduce((sum, time) => sum + madeBy(slice, time), 0) / points.length),
    ),
    fact,
    says: () => `The image was made ${momentWords(taken, zoneOf(situation), situation.now)}.`,
  }
}

/** By slice: which part of it was made at or after a moment that is itself a range. */
function madeFrom(axis: Axis, since: Span): number[] {
  const points = pointsIn(since, QUADRATURE)
  return axis.slices.map((slice) => points.reduce((sum, time) => sum + 1 - madeBy(slice, time), 0) / points.length)
}

/** What had been sent up to the cloud: everything up to the time it stayed in step, and all of it where it never fell behind. */
function syncedCoverage(binding: Binding, axis: Axis, situation: Situation): Coverage {
  const { copy } = binding
  if (!copy) return { bySlice: flat(axis, ZERO), fact: null, says: () => 'There is no such copy.' }
  if (known(copy.syncedUntil)) {
    const { syncedUntil } = copy
    const until = spanOf(syncedUntil)
    const points = pointsIn(until, QUADRATURE)
    return {
      bySlice: axis.slices.map((slice) =>
        certain(points.reduce((sum, time) => sum + madeBy(slice, time), 0) / points.length),
      ),
      fact: `copies.${copy.id}.syncedUntil`,
      says: () => `It was in step until ${momentWords(syncedUntil, zoneOf(situation), situation.now)}.`,
    }
  }
  const fact = `copies.${copy.id}.syncedUntil`
  if (copy.sync === 'on')
    return { bySlice: flat(axis, [0.85, 0.97, 1]), fact, says: () => 'It was in step when it happened.' }
  if (copy.kind === 'contact-archive')
    return {
      bySlice: flat(axis, [0.6, 0.85, 0.97]),
      fact,
      says: () => 'Contacts are usually kept in the account; some may lie on the device only.',
    }
  const ahead: Estimate[] = axis.slices.map((_, index) => {
    const early = 1 - (index + 0.5) / axis.slices.length
    return [0.3 * early, 0.35 + 0.4 * early, 0.95]
  })
  return {
    bySlice: ahead,
    fact,
    says: () => 'Nobody knows until when items reached it; the older ones more likely did.',
  }
}

/**
 * A snapshot covers what had been made, and was not lost yet, when it was taken. Taken after the loss it
 * covers nothing, unless it kept a bin that still held the items.
 */
function snapshotCoverage(
  binding: Binding,
  brings: Extract<Brings, { by: 'snapshot' }>,
  axis: Axis,
  situation: Situation,
): Coverage {
  const { copy } = binding
  const { loss, now } = situation
  if (!copy) return { bySlice: flat(axis, ZERO), fact: null, says: () => 'There is no such copy.' }
  const fact = `copies.${copy.id}.taken`
  const isTold = known(copy.taken)
  const taken = isTold
    ? clip(spanOf(copy.taken as { from: string; to: string }), now)
    : { from: loss.from - 45 * DAY_MS, to: now }
  const points = pointsIn(taken, QUADRATURE)
  const binOdds = points.map((time) =>
    brings.keptBin ? keptBinOdds(copy.keepsBin, brings.keptBin, time, situation) : ZERO,
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

const clip = (span: Span, now: number): Span => ({ from: Math.min(span.from, now), to: Math.min(span.to, now) })

function overlap(slice: Slice, range: Span): number {
  if (slice.to === slice.from) return slice.from === 0 || (range.from <= slice.from && slice.from <= range.to) ? 1 : 0
  return clamped(shareAfter(slice, range.from) - shareAfter(slice, range.to))
}

/** The chance that a copy taken after the loss holds the bin, and that the bin then still held the items. */
function keptBinOdds(keepsBin: string, period: Period, time: number, { ofCase, loss }: Situation): Estimate {
  if (!DELETIONS.includes(ofCase.loss.how) || keepsBin === 'no') return ZERO
  const held = sumIsAfter(loss, { from: period.minDays * DAY_MS, to: period.maxDays * DAY_MS }, time)
  return knownOr(keepsBin as 'yes' | 'no' | 'unknown', null) === 'yes'
    ? certain(held * 0.95)
    : [0.02 * held, 0.2 * held, 0.5 * held]
}

function snapshotWords(taken: unknown, bySlice: readonly Estimate[], situation: Situation, keepsBin: string): string {
  const mean = bySlice.reduce((sum, value) => sum + value[1], 0) / Math.max(1, bySlice.length)
  const { loss, now } = situation
  if (!taken || taken === 'unknown')
    return 'Nobody knows when it was taken; it helps only if that was before the loss and after the items were made.'
  const span = spanOf(taken as { from: string; to: string })
  const when = spanWords(span, zoneOf(situation), now)
  if (shareUpTo(loss, span.from) === 1)
    return keepsBin === 'yes'
      ? `Taken ${when}, after the loss, but it kept the bin.`
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

/** The coverage of a wanted set by what a route reads. */
export function coverageOf(binding: Binding, axis: Axis, situation: Situation): Coverage {
  const { brings } = binding.kind
  const mechanism = MECHANISMS[brings.by] as Mechanism<Brings>
  return mechanism(binding, brings, axis, situation)
}
