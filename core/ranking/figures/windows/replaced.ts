import { known, knownOr } from '../../../cases/shape/fact'
import { DAY_MS, spanOf, type Span } from '../../../cases/shape/moment'
import { dayWords, spanWords } from '../../../cases/telling/words'
import type { Binding } from '../../../playbook/bind'
import type { Period } from '../../../cases/shape/period'
import { zoneOf, type Situation } from '../../situation/situation'
import { shareAfter, sumIsAfter } from '../../situation/spread'
import { daysWords } from './kept'
import { isMachineOff } from './machine-off'
import { NEVER, type Closing, type WindowRule } from './window-rule'

/** The id of the hold that stops the next run from replacing this copy. */
export const stopBackupHold = (copyId: string) => `stop-backup-${copyId}`

/** How likely a run that was due did not happen, where that is unknown: the machine was off, or it failed. */
const MISSED_RUN = 0.25

/** Until the next run replaces it; a run that was due and never happened has saved it. */
export const replaced: WindowRule<'replaced'> = ({ otherwise }, { binding, situation }) => {
  const { copy } = binding
  if (!copy) return NEVER
  if (isMachineOff(binding, situation) && copy.ran !== 'yes')
    return {
      ...NEVER,
      fact: binding.device ? `devices.${binding.device.id}.power` : `copies.${copy.id}.replaced`,
      says: () => 'The machine is off, so the run that would replace it does not come.',
    }
  if (copy.kind === 'file-history' && copy.lies === 'apart' && !known(copy.replaced))
    return {
      ...NEVER,
      fact: `copies.${copy.id}.lies`,
      says: () => 'The disk that it lies on is in hand; nothing in it ages while nothing writes to it.',
    }
  const period = knownOr(copy.keepsFor, otherwise)
  if (!known(copy.replaced)) return period ? agedOut(copy, period, situation) : NEVER
  const span = spanOf(copy.replaced)
  const fact = `copies.${copy.id}.replaced`
  const isPast = span.to <= situation.now
  if (situation.ticked.has(stopBackupHold(copy.id)) && (!isPast || copy.ran === 'no'))
    return { ...NEVER, fact, says: () => 'The run that would replace it is stopped.' }
  const dayWord = (time: number) => dayWords(time, zoneOf(situation), situation.now)
  if (isPast && copy.ran === 'no') {
    // The run comes as soon as the machine is on again, and it is not known when that will be.
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
      if (!isPast) return `A newer one replaces it ${when}.`
      return left > 0
        ? `It was to be replaced ${when}, so it is gone unless that run failed.`
        : `It was replaced ${when}.`
    },
  }
}

/** An earlier state that is thinned out at this age. */
function agedOut(copy: NonNullable<Binding['copy']>, period: Period, situation: Situation): Closing {
  const fact = `copies.${copy.id}.taken`
  if (!known(copy.taken)) return { ...NEVER, fact, says: () => 'It is not known how old it is, nor how long it stays.' }
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
