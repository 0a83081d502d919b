import { STILL_THERE } from '../../../cases/shape/loss'
import { known } from '../../../cases/shape/fact'
import { DAY_MS, spanOf, type Span } from '../../../cases/shape/moment'
import { dayWords } from '../../../cases/telling/words'
import { holdIdOn } from '../../situation/hold-id'
import { zoneOf, type Situation } from '../../situation/situation'
import { shareAfter } from '../../situation/spread'
import { wholeAfterWriting } from '../overwriting'
import { storageKindOf, type MediumAsked } from '../medium'
import { DISCARD_TIMER_DAYS } from '../survival'
import { dailyWritingOf, freeAfterLoss } from '../written'
import { NEVER, type WindowRule } from './window-rule'

/** When the timer that erases freed blocks runs next: as it was said, else some time within its usual period. */
function nextDiscard({ storage }: MediumAsked, { now }: Situation): Span {
  const next = known(storage.discardNext) ? spanOf(storage.discardNext) : null
  return next && next.to > now
    ? { from: Math.max(next.from, now), to: next.to }
    : { from: now, to: now + DISCARD_TIMER_DAYS * DAY_MS }
}

/** While a medium stays in use, every hour takes some of what a scan could find; out of use, nothing does. */
export const reused: WindowRule<'reused'> = (_window, { medium, situation }) => {
  if (!medium) return NEVER
  const { loss } = situation.ofCase
  const fact = 'loss.since.used'
  if (medium.device?.power === 'off')
    return {
      ...NEVER,
      fact: `devices.${medium.device.id}.power`,
      says: () => 'The device is off: nothing is written or erased until it is switched on.',
    }
  const { device } = medium
  const onDevice = (kind: string) => (device ? holdIdOn(kind, device.id, situation.ofCase) : kind)
  const isHeld = [onDevice('stop-using'), 'keep-medium-out', onDevice('power-off')].some((hold) =>
    situation.ticked.has(hold),
  )
  if (STILL_THERE.includes(loss.how) || isHeld)
    return { ...NEVER, fact, says: () => 'Open as long as nothing is written to it.' }
  const rate =
    loss.since.used === 'no' ? 0 : dailyWritingOf(medium, situation)[1] * (loss.since.used === 'yes' ? 1 : 0.3)
  const free = freeAfterLoss(medium, situation)
  const timer = medium.storage.discard === 'by-timer' && storageKindOf(medium) !== 'card'
  const within = nextDiscard(medium, situation)
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
