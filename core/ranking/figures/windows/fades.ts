import { STILL_THERE } from '../../../cases/shape/loss'
import { DAY_MS } from '../../../cases/shape/moment'
import { NEVER, type WindowRule } from './window-rule'

/** Rows in a database fade while the device is in use; while it is not, they stay. */
export const fades: WindowRule<'fades'> = ({ halfLifeDays }, { situation }) => {
  const { since, how } = situation.ofCase.loss
  const fact = 'loss.since.used'
  const isHeld = situation.ticked.has('stop-using') || since.used === 'no' || STILL_THERE.includes(how)
  if (isHeld) return { ...NEVER, fact, says: () => 'Nothing is lost while the device is not used.' }
  const rate = since.used === 'yes' ? 1 : 0.5
  return {
    survival: (time) => 0.5 ** ((rate * Math.max(0, time - situation.now)) / DAY_MS / halfLifeDays),
    earliest: null,
    latest: null,
    fact,
    says: () => `Fades by half in about ${halfLifeDays} days of use.`,
  }
}
