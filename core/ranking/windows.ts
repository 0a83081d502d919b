import { known } from '../cases/fact'
import { DAY_MS, MINUTE_MS, spanOf, type Span } from '../cases/moment'
import { STILL_THERE } from '../cases/loss'
import { dayWords, spanWords } from '../cases/words'
import type { Binding } from '../playbook/bind'
import type { Period } from '../playbook/route-kind'
import { storageKindOf, dailyWritingOf, DISCARD_TIMER_DAYS, freeAfterLoss, type MediumAsked } from './survival'
import { wholeAfterWriting } from './overwriting'
import { zoneOf, type Situation } from './situation'
import { shareAfter, sumIsAfter } from './spread'

/** The chance that something is still open at a time (ms), and between which times it closes. */
export interface Closing {
  readonly survival: (time: number) => number
  readonly earliest: number | null
  readonly latest: number | null
  readonly fact: string | null
  readonly says: string
}

export const NEVER: Closing = { survival: () => 1, earliest: null, latest: null, fact: null, says: 'Stays open.' }

/**
 * The window of a route: its own rule together with the client's deadline. The survival function takes
 * the time at which the route is begun; where it has to be done before it closes, its own length counts.
 */
export function windowOf(binding: Binding, medium: MediumAsked | null, minutes: number, situation: Situation): Closing {
  const own = ownClosing(binding, medium, situation)
  const deadline = deadlineClosing(situation)
  const length = minutes * MINUTE_MS
  const ownLength = binding.kind.by === 'done' ? length : 0
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
  if (window.rule === 'replaced') return replaced(binding, situation)
  if (window.rule === 'reused' && medium) return reused(medium, situation)
  return NEVER
}

/** Kept for a period that is a range, from a loss that is a range. */
export function keptFor(period: Period, situation: Situation): Closing {
  const { loss } = situation
  const kept: Span = { from: period.minDays * DAY_MS, to: period.maxDays * DAY_MS }
  const closes = { from: loss.from + kept.from, to: loss.to + kept.to }
  const days =
    period.minDays === period.maxDays ? `${period.minDays} days` : `${period.minDays} to ${period.maxDays} days`
  const ends = spanWords(wholeDays(closes), zoneOf(situation), situation.now)
  return {
    survival: (time) => sumIsAfter(loss, kept, time),
    earliest: closes.from,
    latest: closes.to,
    fact: 'loss.when',
    says:
      situation.now > closes.to
        ? `Kept for ${days}: that ended ${ends}.`
        : `Kept for ${days} from the loss: until ${ends}.`,
  }
}

/** A closing is told by the day; to the minute it would sound more certain than it is. */
const wholeDays = (span: Span): Span =>
  span.to - span.from > DAY_MS ? { from: span.from - (span.from % DAY_MS), to: span.to - (span.to % DAY_MS) } : span

/** The id of the hold that stops the next run from replacing this copy. */
export const stopBackupHold = (copyId: string) => `stop-backup-${copyId}`

function replaced({ copy }: Binding, situation: Situation): Closing {
  if (!copy || !known(copy.replaced)) return NEVER
  const span = spanOf(copy.replaced)
  const isHeld = situation.ticked.has(stopBackupHold(copy.id)) && span.to > situation.now
  const fact = `copies.${copy.id}.replaced`
  if (isHeld) return { ...NEVER, fact, says: 'The run that would replace it is held off.' }
  const when = spanWords(span, zoneOf(situation), situation.now)
  return {
    survival: (time) => shareAfter(span, time),
    earliest: span.from,
    latest: span.to,
    fact,
    says:
      span.to <= situation.now
        ? `It was to be replaced ${when}, so it is gone unless that run failed.`
        : `A newer one takes its place ${when}.`,
  }
}

/** While a medium stays in use, every hour takes some of what a scan could find; out of use, nothing does. */
function reused(medium: MediumAsked, situation: Situation): Closing {
  const { loss } = situation.ofCase
  const fact = 'loss.since.used'
  const isHeld =
    situation.ticked.has('stop-using') || situation.ticked.has('keep-medium-out') || situation.ticked.has('power-off')
  if (STILL_THERE.includes(loss.how) || isHeld)
    return { ...NEVER, fact, says: 'Open as long as nothing is written to it.' }
  const rate =
    loss.since.used === 'no' ? 0 : dailyWritingOf(medium, situation)[1] * (loss.since.used === 'yes' ? 1 : 0.3)
  const free = freeAfterLoss(medium, situation)
  const timer = medium.storage.discard === 'by-timer' && storageKindOf(medium) !== 'card'
  const within: Span = { from: situation.now, to: situation.now + DISCARD_TIMER_DAYS * DAY_MS }
  const says = timer
    ? `The timer that erases freed blocks runs by ${dayWords(within.to, zoneOf(situation), situation.now)} while it is on.`
    : rate > 0
      ? 'Fades with every hour in use; open as long as nothing is written to it.'
      : 'Open as long as nothing is written to it.'
  return {
    survival: (time) => {
      const written = (rate * Math.max(0, time - situation.now)) / DAY_MS
      return wholeAfterWriting({ written, free, fileBytes: 0 }) * (timer ? shareAfter(within, time) : 1)
    },
    earliest: timer ? within.from : null,
    latest: timer ? within.to : null,
    fact,
    says,
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
    says: `Has to be done by ${spanWords(span, zoneOf(situation), situation.now)}.`,
  }
}
