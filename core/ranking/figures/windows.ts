import { known } from '../../cases/shape/fact'
import { DAY_MS, MINUTE_MS, spanOf, type Span } from '../../cases/shape/moment'
import { STILL_THERE } from '../../cases/shape/loss'
import { dayWords, spanWords } from '../../cases/telling/words'
import type { Binding } from '../../playbook/bind'
import type { Period } from '../../playbook/kinds/route-kind'
import { storageKindOf, dailyWritingOf, DISCARD_TIMER_DAYS, freeAfterLoss, type MediumAsked } from './survival'
import { wholeAfterWriting } from './overwriting'
import { zoneOf, type Situation } from '../situation/situation'
import { shareAfter, sumIsAfter } from '../situation/spread'

/** The chance that something is still open at a time (ms), and between which times it closes. */
export interface Closing {
  readonly survival: (time: number) => number
  readonly earliest: number | null
  readonly latest: number | null
  readonly fact: string | null
  /** put into words only where somebody reads them: many more figures are worked out than are shown */
  readonly says: () => string
}

export const NEVER: Closing = { survival: () => 1, earliest: null, latest: null, fact: null, says: () => 'Stays open.' }

/**
 * The window of a route: its own rule together with the client's deadline. The survival function takes
 * the time at which the route is begun; where it has to be done before it closes, its own length counts.
 */
export function windowOf(binding: Binding, medium: MediumAsked | null, minutes: number, situation: Situation): Closing {
  const own = ownClosing(binding, medium, situation)
  const deadline = deadlineClosing(situation)
  const length = minutes * MINUTE_MS
  const ownLength = binding.kind.by === 'done' ? length : 0
  if (deadline === NEVER && ownLength === 0) return own
  const first = earlier(own, deadline)
  return {
    survival: (time) => own.survival(time + ownLength) * deadline.survival(time + length),
    earliest: leastOf(own.earliest, deadline.earliest),
    latest: leastOf(own.latest, deadline.latest),
    fact: first.fact,
    says: first.says,
  }
}

const leastOf = (one: number | null, other: number | null) =>
  one === null ? other : other === null ? one : Math.min(one, other)
const earlier = (one: Closing, other: Closing) =>
  one.earliest === null || (other.earliest !== null && other.earliest < one.earliest)
    ? other === NEVER
      ? one
      : other
    : one

function ownClosing(binding: Binding, medium: MediumAsked | null, situation: Situation): Closing {
  const { window } = binding.kind
  if (window.rule === 'kept') return keptFor(window.period, situation)
  if (window.rule === 'replaced') return replaced(binding, window.otherwise ?? null, situation)
  if (window.rule === 'synced') return carriedOn(binding, situation)
  if (window.rule === 'fades') return fading(window.halfLifeDays, situation)
  if (window.rule === 'reused' && medium) return reused(medium, situation)
  return NEVER
}

/** Kept for a period that is a range, from a loss that is a range. */
export function keptFor(period: Period, situation: Situation): Closing {
  const { loss } = situation
  const kept: Span = { from: period.minDays * DAY_MS, to: period.maxDays * DAY_MS }
  const closes = { from: loss.from + kept.from, to: loss.to + kept.to }
  return {
    survival: (time) => sumIsAfter(loss, kept, time),
    earliest: closes.from,
    latest: closes.to,
    fact: 'loss.when',
    says: () => {
      const ends = spanWords(wholeDays(closes), zoneOf(situation), situation.now)
      return situation.now > closes.to
        ? `Kept for ${daysWords(period)}: that ended ${ends}.`
        : `Kept for ${daysWords(period)} from the loss: until ${ends}.`
    },
  }
}

const daysWords = ({ minDays, maxDays }: Period) =>
  minDays === maxDays ? `${minDays} ${minDays === 1 ? 'day' : 'days'}` : `${minDays} to ${maxDays} days`

/** A closing is told by the day; to the minute it would sound more certain than it is. */
const wholeDays = (span: Span): Span =>
  span.to - span.from > DAY_MS ? { from: span.from - (span.from % DAY_MS), to: span.to - (span.to % DAY_MS) } : span

/** The id of the hold that stops the next run from replacing this copy. */
export const stopBackupHold = (copyId: string) => `stop-backup-${copyId}`

/** How likely a run that was due did not happen, where nobody knows: the machine was off, or it failed. */
const MISSED_RUN = 0.25

/** Until the next run puts a newer one in its place; a run that was due and never happened has saved it. */
function replaced({ copy }: Binding, otherwise: Period | null, situation: Situation): Closing {
  if (!copy) return NEVER
  if (!known(copy.replaced)) return otherwise ? agedOut(copy, otherwise, situation) : NEVER
  const span = spanOf(copy.replaced)
  const fact = `copies.${copy.id}.replaced`
  const isPast = span.to <= situation.now
  if (situation.ticked.has(stopBackupHold(copy.id)) && (!isPast || copy.ran === 'no'))
    return { ...NEVER, fact, says: () => 'The run that would replace it is held off.' }
  const dayWord = (time: number) => dayWords(time, zoneOf(situation), situation.now)
  if (isPast && copy.ran === 'no') {
    // The run comes as soon as the machine is on again, and nobody knows when somebody switches it on.
    const next: Span = { from: situation.now, to: situation.now + 2 * DAY_MS }
    return {
      survival: (time) => shareAfter(next, time),
      earliest: next.from,
      latest: next.to,
      fact: `copies.${copy.id}.ran`,
      says: () => `The run due ${dayWord(span.from)} never happened, so it is still there; it comes at the next start.`,
    }
  }
  const left = isPast && copy.ran === 'unknown' ? MISSED_RUN : 0
  return {
    survival: (time) => left + (1 - left) * shareAfter(span, time),
    earliest: span.from,
    latest: span.to,
    fact: isPast ? `copies.${copy.id}.ran` : fact,
    says: () => {
      const when = spanWords(span, zoneOf(situation), situation.now)
      if (!isPast) return `A newer one takes its place ${when}.`
      return left > 0
        ? `It was to be replaced ${when}, so it is gone unless that run failed.`
        : `It was replaced ${when}.`
    },
  }
}

/** A state that is thinned out when it is so old. */
function agedOut(copy: NonNullable<Binding['copy']>, period: Period, situation: Situation): Closing {
  const fact = `copies.${copy.id}.taken`
  if (!known(copy.taken)) return { ...NEVER, fact, says: () => 'Nobody knows how old it is, and so how long it stays.' }
  const taken = spanOf(copy.taken)
  const kept: Span = { from: period.minDays * DAY_MS, to: period.maxDays * DAY_MS }
  const closes = { from: taken.from + kept.from, to: taken.to + kept.to }
  const isOff = situation.ticked.has('power-off') && copy.kind === 'snapshot-timeline'
  if (isOff) return { ...NEVER, fact, says: () => 'Nothing is thinned out while the computer is off.' }
  return {
    survival: (time) => sumIsAfter(taken, kept, time),
    earliest: closes.from,
    latest: closes.to,
    fact,
    says: () =>
      `Such states are kept for ${daysWords(period)}: until ${spanWords(closes, zoneOf(situation), situation.now)}.`,
  }
}

/** Sync that is on again carries the loss on within hours, unless it is held off. */
const SYNC_HOURS: Span = { from: 0, to: 12 * 60 * MINUTE_MS }

function carriedOn({ copy }: Binding, situation: Situation): Closing {
  const { since, how } = situation.ofCase.loss
  const fact = 'loss.since.sync'
  const isSafe = since.sync === 'off' || since.sync === 'none' || situation.ticked.has('stop-sync') || !carriesOn(how)
  if (isSafe || copy?.sync === 'on')
    return { ...NEVER, fact, says: () => 'Stays as long as sync does not carry the loss on.' }
  const isOn = since.sync === 'on'
  const within: Span = { from: situation.now + SYNC_HOURS.from, to: situation.now + SYNC_HOURS.to }
  const risk = isOn ? 0.9 : 0.35
  return {
    survival: (time) => 1 - risk * (1 - shareAfter(within, time)),
    earliest: within.from,
    latest: within.to,
    fact,
    says: () =>
      isOn
        ? 'Sync is on: it can carry the deletion on any hour until it is stopped.'
        : 'Nobody knows whether sync is on; if it is, it carries the deletion on.',
  }
}

/** Losses that sync would carry to the other side. */
const carriesOn = (how: string) =>
  !['sync-switched', 'app-removed', 'factory-reset', 'locked-out', 'broken'].includes(how)

/** Rows in a database fade while the device is in use; out of use they stay. */
function fading(halfLifeDays: number, situation: Situation): Closing {
  const { since, how } = situation.ofCase.loss
  const fact = 'loss.since.used'
  const isHeld = situation.ticked.has('stop-using') || since.used === 'no' || STILL_THERE.includes(how)
  if (isHeld) return { ...NEVER, fact, says: () => 'Nothing fades while the device is not used.' }
  const rate = since.used === 'yes' ? 1 : 0.5
  return {
    survival: (time) => 0.5 ** ((rate * Math.max(0, time - situation.now)) / DAY_MS / halfLifeDays),
    earliest: null,
    latest: null,
    fact,
    says: () => `Fades by half in about ${halfLifeDays} days of use.`,
  }
}

/** While a medium stays in use, every hour takes some of what a scan could find; out of use, nothing does. */
function reused(medium: MediumAsked, situation: Situation): Closing {
  const { loss } = situation.ofCase
  const fact = 'loss.since.used'
  const isHeld = ['stop-using', 'keep-medium-out', 'power-off'].some((hold) => situation.ticked.has(hold))
  if (STILL_THERE.includes(loss.how) || isHeld)
    return { ...NEVER, fact, says: () => 'Open as long as nothing is written to it.' }
  const rate =
    loss.since.used === 'no' ? 0 : dailyWritingOf(medium, situation)[1] * (loss.since.used === 'yes' ? 1 : 0.3)
  const free = freeAfterLoss(medium, situation)
  const timer = medium.storage.discard === 'by-timer' && storageKindOf(medium) !== 'card'
  const within: Span = { from: situation.now, to: situation.now + DISCARD_TIMER_DAYS * DAY_MS }
  return {
    survival: (time) => {
      const written = (rate * Math.max(0, time - situation.now)) / DAY_MS
      return wholeAfterWriting({ written, free, fileBytes: 0 }) * (timer ? shareAfter(within, time) : 1)
    },
    earliest: timer ? within.from : null,
    latest: timer ? within.to : null,
    fact,
    says: () => {
      if (timer)
        return `The timer that erases freed blocks runs by ${dayWords(within.to, zoneOf(situation), situation.now)} while it is on.`
      return rate > 0
        ? 'Fades with every hour in use; open as long as nothing is written to it.'
        : 'Open as long as nothing is written to it.'
    },
  }
}

function deadlineClosing(situation: Situation): Closing {
  const { deadline } = situation.ofCase.limits
  if (!known(deadline)) return NEVER
  const span = spanOf(deadline)
  return {
    survival: (time) => (time > span.to ? 0 : span.from === span.to || time <= span.from ? 1 : shareAfter(span, time)),
    earliest: span.from,
    latest: span.to,
    fact: 'limits.deadline',
    says: () => `Has to be done by ${spanWords(span, zoneOf(situation), situation.now)}.`,
  }
}
