import { knownOr } from '../../../cases/shape/fact'
import { DAY_MS, type Span } from '../../../cases/shape/moment'
import { sayDays } from '../../../cases/telling/saying/amounts'
import { spanWords } from '../../../cases/telling/words'
import type { Period } from '../../../cases/shape/period'
import { zoneOf, type Situation } from '../../situation/situation'
import { sumIsAfter } from '../../situation/spread'
import type { Closing, WindowRule } from './window-rule'

/** Kept for a period from the loss: this copy's own, where it is known. */
export const kept: WindowRule<'kept'> = ({ period }, { binding, situation }) =>
  keptFor(knownOr(binding.copy?.keepsFor, period), situation)

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

/** "30 days", "20 to 30 days". */
export const daysWords = ({ minDays, maxDays }: Period) => sayDays(minDays, maxDays)

/** A closing is given by the day; to the minute it would sound more precise than it is. */
const wholeDays = (span: Span): Span =>
  span.to - span.from > DAY_MS ? { from: span.from - (span.from % DAY_MS), to: span.to - (span.to % DAY_MS) } : span
