import { isBareMedium } from '../../../cases/shape/device'
import { known } from '../../../cases/shape/fact'
import { spanOf } from '../../../cases/shape/moment'
import { momentWords } from '../../../cases/telling/words'
import type { Binding } from '../../../playbook/bind'
import type { Axis } from '../../situation/axis'
import { certain, ONE, ZERO, type Estimate } from '../../situation/estimate'
import { zoneOf, type Situation } from '../../situation/situation'
import { pointsIn } from '../../situation/spread'
import { flat, type Coverage, type CoverageRule } from './coverage-rule'
import { madeBy, madeFrom, QUADRATURE } from './shares'

/** What the physics leaves on a medium, as far as the items were stored on it. */
export const storage: CoverageRule<'storage'> = (binding, _brings, axis, situation) => {
  if (binding.copy?.kind === 'disk-image') return imageCoverage(binding.copy, axis, situation)
  const { lived } = axis.wanted
  const isMedium = binding.copy?.kind === 'medium'
  const here = isMedium ? 'card' : 'device'
  const fact = `wanted.${axis.wanted.id}.lived`
  const { on } = axis.wanted
  if (!known(lived) && known(on) && on.includes(binding.copy?.id ?? binding.device?.id ?? ''))
    return { bySlice: flat(axis, ONE), fact: `wanted.${axis.wanted.id}.on`, says: () => 'They were stored on it.' }
  const isBareDevice = binding.device !== null && isBareMedium(binding.device)
  if (!known(lived)) {
    const value: Estimate = isMedium ? [0.3, 0.6, 0.9] : ONE
    return {
      bySlice: flat(axis, value),
      fact,
      says: () =>
        isMedium ? 'It is not known whether they were stored on it or on the device.' : 'They were stored on it.',
    }
  }
  if (!isMedium && isBareDevice) return { bySlice: flat(axis, ONE), fact, says: () => 'They were stored on it.' }
  const place = lived.find((candidate) => candidate.place === here)
  const other = lived.find((candidate) => candidate.place === (isMedium ? 'device' : 'card') && known(candidate.from))
  if (!place && !(here === 'device' && lived.some((candidate) => candidate.place === 'app')))
    return {
      bySlice: flat(axis, ZERO),
      fact,
      says: () => (isMedium ? 'They were not stored on it.' : 'They were not stored on the device itself.'),
    }
  if (place && known(place.from)) {
    const { from } = place
    const since = spanOf(from)
    return {
      bySlice: madeFrom(axis, since).map(certain),
      fact,
      says: () => `They were stored on it from ${momentWords(from, zoneOf(situation), situation.now)} on.`,
    }
  }
  if (other && known(other.from)) {
    const { from } = other
    const until = spanOf(from)
    return {
      bySlice: madeFrom(axis, until).map((share) => certain(1 - share)),
      fact,
      says: () => `They were stored on it until ${momentWords(from, zoneOf(situation), situation.now)}.`,
    }
  }
  return { bySlice: flat(axis, ONE), fact, says: () => 'They were stored on it.' }
}

/**
 * What was on the medium when the image was made: items that existed by then; earlier losses are for the scan to find.
 */
function imageCoverage(copy: NonNullable<Binding['copy']>, axis: Axis, situation: Situation): Coverage {
  const fact = `copies.${copy.id}.taken`
  if (!known(copy.taken))
    return { bySlice: flat(axis, [0.6, 0.85, 1]), fact, says: () => 'It is not known when the image was made.' }
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
