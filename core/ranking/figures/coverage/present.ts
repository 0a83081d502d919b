import { known } from '../../../cases/shape/fact'
import { STILL_THERE } from '../../../cases/shape/loss'
import { ONE, ZERO } from '../../situation/estimate'
import { flat, type CoverageRule } from './coverage-rule'

/** What is still on the device, because nothing has been lost yet. */
export const present: CoverageRule<'present'> = (_binding, _brings, axis, { ofCase: { loss } }) => {
  const { lived, id } = axis.wanted
  if (!STILL_THERE.includes(loss.how))
    return { bySlice: flat(axis, ZERO), fact: 'loss.how', says: () => 'They are no longer there.' }
  if (known(lived) && lived.every(({ place }) => place === 'cloud'))
    return { bySlice: flat(axis, ZERO), fact: `wanted.${id}.lived`, says: () => 'They are not on the device itself.' }
  return { bySlice: flat(axis, ONE), fact: 'loss.how', says: () => 'They are still there.' }
}
