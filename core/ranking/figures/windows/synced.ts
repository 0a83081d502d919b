import { DELETIONS } from '../../../cases/shape/loss'
import { MINUTE_MS, type Span } from '../../../cases/shape/moment'
import { shareAfter } from '../../situation/spread'
import { NEVER, type WindowRule } from './window-rule'

/** Sync that is on again syncs the loss within hours, unless it is held off. */
const SYNC_HOURS: Span = { from: 0, to: 12 * 60 * MINUTE_MS }

/** Until sync passes the loss on. */
export const synced: WindowRule<'synced'> = (_window, { binding: { copy }, situation }) => {
  const { since, how } = situation.ofCase.loss
  const fact = 'loss.since.sync'
  const isSafe = since.sync === 'off' || since.sync === 'none' || situation.ticked.has('stop-sync') || !carriesOn(how)
  if (isSafe || copy?.sync === 'on')
    return { ...NEVER, fact, says: () => 'Stays as long as sync does not propagate the loss.' }
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
        ? 'Sync is on: it can propagate the deletion at any time until it is stopped.'
        : 'It is not known whether sync is on; if it is, it propagates the deletion.',
  }
}

/** Losses that sync would pass on to the other side. */
export const carriesOn = (how: string): boolean =>
  [...DELETIONS, 'bin-emptied', 'saved-over', 'malware', 'unknown'].includes(how)
