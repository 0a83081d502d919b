import { known } from '../../../cases/shape/fact'
import { DAY_MS, spanOf, type Span } from '../../../cases/shape/moment'
import { momentWords } from '../../../cases/telling/words'
import type { Binding } from '../../../playbook/bind'
import type { Axis } from '../../situation/axis'
import { certain, ZERO, type Estimate } from '../../situation/estimate'
import { zoneOf, type Situation } from '../../situation/situation'
import { pointsIn } from '../../situation/spread'
import { flat, type Coverage } from './coverage-rule'
import { madeBy, QUADRATURE } from './shares'

/** When a library that was switched off may have been in sync last: between the first item and the loss; null where unknown. */
export function stoppedIn({ ofCase, loss }: Situation): Span | null {
  const made = ofCase.wanted.flatMap((one) => (known(one.made) ? [spanOf(one.made).from] : []))
  const from = Math.min(...made)
  return made.length > 0 && loss.from - from > DAY_MS ? { from, to: loss.from } : null
}

/**
 * What had synced to the cloud: everything up to the time until which it was in sync, and all of it where it never fell
 * behind.
 */
export function syncedCoverage(binding: Binding, axis: Axis, situation: Situation): Coverage {
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
      says: () => `It was synced until ${momentWords(syncedUntil, zoneOf(situation), situation.now)}.`,
    }
  }
  const fact = `copies.${copy.id}.syncedUntil`
  if (copy.sync === 'on')
    return { bySlice: flat(axis, [0.85, 0.97, 1]), fact, says: () => 'It was synced when it happened.' }
  if (copy.kind === 'contact-archive')
    return {
      bySlice: flat(axis, [0.6, 0.85, 0.97]),
      fact,
      says: () => 'Contacts are usually kept in the account; some may be on the device only.',
    }
  if (copy.kind === 'mail-account')
    return {
      bySlice: flat(axis, [0.7, 0.92, 0.99]),
      fact,
      says: () => 'Mail is usually kept on the server; what was filed on the device only is not.',
    }
  const stopped = copy.sync === 'off' ? stoppedIn(situation) : null
  if (stopped) {
    const points = pointsIn(stopped, QUADRATURE)
    return {
      bySlice: axis.slices.map((slice): Estimate => {
        const mean = points.reduce((sum, time) => sum + madeBy(slice, time), 0) / points.length
        return [0.3 * mean, mean, Math.max(mean, 0.95)]
      }),
      fact,
      says: () => 'It is not known when syncing stopped; older items are more likely to be there.',
    }
  }
  const ahead: Estimate[] = axis.slices.map((_, index) => {
    const early = 1 - (index + 0.5) / axis.slices.length
    return [0.3 * early, 0.35 + 0.4 * early, 0.95]
  })
  return {
    bySlice: ahead,
    fact,
    says: () => 'It is not known when syncing stopped; older items are more likely to be there.',
  }
}
