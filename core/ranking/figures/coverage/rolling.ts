import { known } from '../../../cases/shape/fact'
import { TAKE_WHAT_LIES_THERE } from '../../../cases/shape/loss'
import { DAY_MS } from '../../../cases/shape/moment'
import { ZERO, type Estimate } from '../../situation/estimate'
import { pointsIn } from '../../situation/spread'
import { flat, type CoverageRule } from './coverage-rule'
import { madeBy, QUADRATURE } from './shares'
import { snapshot } from './snapshot'

/**
 * Copies that an app makes of itself every day or night: the last one from before the loss has what was made by then.
 * How long it is kept is the window's matter.
 */
export const rolling: CoverageRule<'rolling'> = (binding, _brings, axis, situation) => {
  const { copy } = binding
  const { ofCase, loss } = situation
  if (!copy) return { bySlice: flat(axis, ZERO), fact: null, says: () => 'There is no such copy.' }
  const isOnDevice = !known(copy.lies) || ofCase.devices.some(({ id }) => id === copy.lies)
  if (isOnDevice && TAKE_WHAT_LIES_THERE.includes(ofCase.loss.how))
    return { bySlice: flat(axis, ZERO), fact: 'loss.how', says: () => 'They lay on the device and went with it.' }
  if (known(copy.taken)) return snapshot(binding, { by: 'snapshot' }, axis, situation)
  // The app's own folder may be removed with it.
  const left: Estimate = isOnDevice && ofCase.loss.how === 'app-removed' ? [0.35, 0.6, 0.85] : [0.85, 0.95, 1]
  const points = pointsIn({ from: loss.from - DAY_MS, to: loss.to }, QUADRATURE)
  return {
    bySlice: axis.slices.map((slice): Estimate => {
      const made = points.reduce((sum, time) => sum + madeBy(slice, time), 0) / points.length
      return [made * left[0], made * left[1], made * left[2]]
    }),
    fact: `copies.${copy.id}.taken`,
    says: () =>
      left[1] < 0.9
        ? 'The app copied itself until it was removed; its folder may have gone with it.'
        : 'The last copy from before the loss has what was there by then.',
  }
}
