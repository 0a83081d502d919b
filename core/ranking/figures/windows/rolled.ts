import { knownOr } from '../../../cases/shape/fact'
import { NEVER, type WindowRule } from './window-rule'
import { keptFor } from './kept'
import { isMachineOff } from './machine-off'

/** Until newer copies of the app have replaced the last one from before the loss; none is made while the device is off. */
export const rolled: WindowRule<'rolled'> = ({ period }, { binding, situation }) => {
  const fact = binding.device ? `devices.${binding.device.id}.power` : null
  if (isMachineOff(binding, situation))
    return { ...NEVER, fact, says: () => 'The device is off, so no newer copy replaces it.' }
  return keptFor(knownOr(binding.copy?.keepsFor, period), situation)
}
